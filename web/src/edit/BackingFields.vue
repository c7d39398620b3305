<script setup lang="ts">
import { X } from '@lucide/vue'
import type { Backing, BackingChange, Reach } from '../generated/types'
import { RATIO_WHOLE, toRatio } from '../measures'
import { useBench } from '../stores/bench'
import ChoiceField from '../parts/ChoiceField.vue'
import MeasureField from '../parts/MeasureField.vue'
import PaintPick from './PaintPick.vue'
import ShareField from '../parts/ShareField.vue'
import { frameShapes } from './frame-shapes'

/** A shape behind words that grows and shrinks with them. */
const props = defineProps<{ backing: Backing; scale: number }>()
const emit = defineEmits<{ live: [change: BackingChange | null]; done: [change: BackingChange | null] }>()
const bench = useBench()

const reaches: { value: Reach; name: string }[] = [
  { value: 'lines', name: 'Each line' },
  { value: 'words', name: 'The words, closely' },
  { value: 'box', name: 'The whole box' },
]
const set = (by: BackingChange) => emit('done', by)
const live = (by: BackingChange) => emit('live', by)
const shape = () => frameShapes.find((entry) => entry.outline.kind === props.backing.outline.kind)?.value ?? 'rect'
const radius = () => (props.backing.outline.kind === 'rect' ? props.backing.outline.radius : null)
</script>

<template>
  <fieldset class="backing">
    <legend>Behind the words</legend>
    <button class="tool" aria-label="Take away what lies behind the words" data-tip="Take away" @click="emit('done', null)">
      <X :size="14" />
    </button>
    <ChoiceField label="Around" :value="backing.reach" :choices="reaches" @done="set({ reach: $event })" />
    <ChoiceField
      label="Shape"
      :value="shape()"
      :choices="frameShapes"
      @done="set({ outline: frameShapes.find((entry) => entry.value === $event)!.outline })" />
    <MeasureField
      v-if="radius() !== null"
      label="Radius of the corners"
      short="Corners"
      :value="Math.round((radius()! * scale) / RATIO_WHOLE)"
      :unit="bench.piece!.format.unit"
      :ppi="bench.piece!.format.ppi"
      :least="0"
      @change="set({ radius: $event })" />
    <PaintPick label="Fill" :paint="backing.fill" none-label="no fill" @live="live({ fill: $event })" @done="set({ fill: $event })" />
    <ShareField
      label="Sides"
      :min="-50"
      :max="300"
      :value="(backing.padX / RATIO_WHOLE) * 100"
      @live="live({ padX: toRatio($event / 100) })"
      @done="set({ padX: toRatio($event / 100) })" />
    <ShareField
      label="Above"
      :min="-50"
      :max="300"
      :value="(backing.padY / RATIO_WHOLE) * 100"
      @live="live({ padY: toRatio($event / 100) })"
      @done="set({ padY: toRatio($event / 100) })" />
  </fieldset>
</template>

<style scoped>
.backing {
  position: relative;
  display: grid;
  gap: 6px;
  margin: 0;
  padding: 4px 0 0 8px;
  border: 0;
  border-left: 2px solid var(--rule);
}

legend {
  padding: 0;
  font-size: var(--text-1);
  font-weight: 600;
  color: var(--ink-2);
}

.backing > .tool {
  position: absolute;
  right: -6px;
  top: -24px;
}
</style>
