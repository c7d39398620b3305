<script setup lang="ts">
import { ElCheckbox } from 'element-plus'
import { computed } from 'vue'
import type { Finish, FinishChange, Hole, Piece } from '../generated/types'
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
const folds = computed(() => finish.value.folds?.at ?? [])
const level = computed(() => finish.value.folds?.level ?? false)
const says = computed(() =>
  [
    finish.value.corners ? 'rounded' : '',
    finish.value.hole ? 'punched' : '',
    folds.value.length ? `${folds.value.length} ${folds.value.length === 1 ? 'fold' : 'folds'}` : '',
  ]
    .filter(Boolean)
    .join(', '),
)

const change = (change: FinishChange) => void bench.act({ act: 'changeFinish', piece: props.piece.id, change })
const hole = (own: Partial<Hole>) => {
  if (finish.value.hole) change({ change: 'hole', hole: { ...finish.value.hole, ...own } })
}
</script>

<template>
  <FoldGroup name="finish" title="Corners, hole and folds" :says="says">
    <MeasureField
      label="Radius of the corners"
      short="Corners"
      :value="finish.corners ?? 0"
      v-bind="unit"
      :least="0"
      @change="change({ change: 'corners', radius: $event })" />
    <ElCheckbox
      :model-value="Boolean(finish.hole)"
      label="A hole"
      data-field="hole"
      @update:model-value="change($event ? { change: 'punch' } : { change: 'hole', hole: null })" />
    <div v-if="finish.hole" class="two">
      <MeasureField
        label="Hole from the left"
        short="Left"
        :value="finish.hole.at.x"
        v-bind="unit"
        :least="0"
        @change="hole({ at: { ...finish.hole!.at, x: $event } })" />
      <MeasureField
        label="Hole from the top"
        short="Top"
        :value="finish.hole.at.y"
        v-bind="unit"
        :least="0"
        @change="hole({ at: { ...finish.hole!.at, y: $event } })" />
      <MeasureField
        label="Width of the hole"
        short="Wide"
        :value="finish.hole.across"
        v-bind="unit"
        :least="1"
        @change="hole({ across: $event })" />
    </div>
    <label class="count"
      ><span>Folds</span
      ><NumberField
        label="Folds"
        :value="folds.length"
        :least="0"
        :most="5"
        whole
        @done="change({ change: 'folds', count: $event, level })"
    /></label>
    <template v-if="folds.length">
      <ChoiceField
        label="They run"
        :value="level ? 'level' : 'upright'"
        :choices="[
          { value: 'upright', name: 'From top to bottom' },
          { value: 'level', name: 'From left to right' },
        ]"
        @done="change({ change: 'folds', count: folds.length, level: $event === 'level' })" />
      <div class="two">
        <MeasureField
          v-for="(at, i) in folds"
          :key="i"
          :label="`Fold ${i + 1}`"
          :short="`Fold ${i + 1}`"
          :value="at"
          v-bind="unit"
          :least="1"
          @change="change({ change: 'fold', index: i, at: $event })" />
      </div>
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
