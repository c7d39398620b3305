<script setup lang="ts">
import { ElCheckbox } from 'element-plus'
import { computed } from 'vue'
import type { Finish, Piece } from '../generated/types'
import FoldGroup from '../parts/FoldGroup.vue'
import MeasureField from '../parts/MeasureField.vue'
import NumberField from '../parts/NumberField.vue'
import ChoiceField from '../parts/ChoiceField.vue'
import { useBench } from '../stores/bench'

/** What is done to a printed piece beside trimming: rounded corners, a hole, folds. */
const props = defineProps<{ piece: Piece }>()
const bench = useBench()

const finish = computed<Finish>(() => props.piece.format.finish ?? {})
const unit = computed(() => ({ unit: props.piece.format.unit, ppi: props.piece.format.ppi }) as const)
const size = computed(() => props.piece.format.size)
const folds = computed(() => finish.value.folds?.at ?? [])
const level = computed(() => finish.value.folds?.level ?? false)
const says = computed(() => [finish.value.corners ? 'rounded' : '', finish.value.hole ? 'punched' : '', folds.value.length ? `${folds.value.length} ${folds.value.length === 1 ? 'fold' : 'folds'}` : ''].filter(Boolean).join(', '))

function set(change: Partial<Finish>) {
  const next = { ...finish.value, ...change }
  if (!next.folds?.at.length) delete next.folds
  if (!next.hole) delete next.hole
  void bench.act({ act: 'setFinish', piece: props.piece.id, finish: next })
}
/** Folds as far apart as each other, to be moved from there. */
function fold(count: number, flat = level.value) {
  const whole = flat ? size.value.h : size.value.w
  set({ folds: { level: flat, at: Array.from({ length: count }, (_, i) => Math.round((whole * (i + 1)) / (count + 1))) } })
}
const moved = (at: number, to: number) => set({ folds: { level: level.value, at: folds.value.map((old, i) => (i === at ? to : old)) } })
const mm = 36_000
const punch = (on: boolean) => set(on ? { hole: { at: { x: Math.round(size.value.w / 2), y: Math.round(Math.min(8 * mm, size.value.h / 4)) }, across: 4 * mm } } : { hole: undefined } as Partial<Finish>)
</script>

<template>
  <FoldGroup name="finish" title="Corners, hole and folds" :says="says">
    <MeasureField label="Radius of the corners" short="Corners" :value="finish.corners ?? 0" v-bind="unit" :least="0" @change="set({ corners: $event })" />
    <ElCheckbox :model-value="Boolean(finish.hole)" label="A hole" data-field="hole" @update:model-value="punch(Boolean($event))" />
    <div v-if="finish.hole" class="two">
      <MeasureField label="Hole from the left" short="Left" :value="finish.hole.at.x" v-bind="unit" :least="0" @change="set({ hole: { ...finish.hole!, at: { ...finish.hole!.at, x: $event } } })" />
      <MeasureField label="Hole from the top" short="Top" :value="finish.hole.at.y" v-bind="unit" :least="0" @change="set({ hole: { ...finish.hole!, at: { ...finish.hole!.at, y: $event } } })" />
      <MeasureField label="Width of the hole" short="Wide" :value="finish.hole.across" v-bind="unit" :least="1" @change="set({ hole: { ...finish.hole!, across: $event } })" />
    </div>
    <label class="count"><span>Folds</span><NumberField label="Folds" :value="folds.length" :least="0" :most="5" whole @done="fold($event)" /></label>
    <template v-if="folds.length">
      <ChoiceField label="They run" :value="level ? 'level' : 'upright'" :choices="[{ value: 'upright', name: 'From top to bottom' }, { value: 'level', name: 'From left to right' }]" @done="fold(folds.length, $event === 'level')" />
      <div class="two"><MeasureField v-for="(at, i) in folds" :key="i" :label="`Fold ${i + 1}`" :short="`Fold ${i + 1}`" :value="at" v-bind="unit" :least="1" @change="moved(i, $event)" /></div>
    </template>
  </FoldGroup>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 6px 12px;
}

.count {
  display: grid;
  grid-template-columns: 62px minmax(0, 1fr);
  align-items: center;
  gap: 12px;
  font-size: var(--text-1);
  color: var(--ink-3);
}
</style>
