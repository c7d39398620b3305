<script setup lang="ts">
import type { Cap, Join, LineChange, Stroke, StrokePlace } from '../generated/types'
import { RATIO_WHOLE } from '../measures'
import { useBench } from '../stores/bench'
import ChoiceField from '../parts/ChoiceField.vue'
import MeasureField from '../parts/MeasureField.vue'
import PaintPick from './PaintPick.vue'

/** A line along an outline. Its width is shown as it is in this piece. */
const props = defineProps<{ stroke: Stroke; scale: number }>()
const emit = defineEmits<{ live: [change: LineChange | null]; done: [change: LineChange | null] }>()
const bench = useBench()

const places: { value: StrokePlace; name: string }[] = [
  { value: 'centre', name: 'On the edge' },
  { value: 'inside', name: 'Inside' },
  { value: 'outside', name: 'Outside' },
]
const joins: { value: Join; name: string }[] = [
  { value: 'mitre', name: 'Pointed' },
  { value: 'round', name: 'Round' },
  { value: 'bevel', name: 'Cut off' },
]
const caps: { value: Cap; name: string }[] = [
  { value: 'flat', name: 'Flat' },
  { value: 'round', name: 'Round' },
  { value: 'square', name: 'Square' },
]
const w = RATIO_WHOLE
const dashes: { value: string; name: string; dash: number[] }[] = [
  { value: 'none', name: 'Unbroken', dash: [] },
  { value: 'dashes', name: 'Dashes', dash: [3 * w, 2 * w] },
  { value: 'long', name: 'Long dashes', dash: [7 * w, 3 * w] },
  { value: 'dots', name: 'Dots', dash: [w, 1.6 * w] },
  { value: 'both', name: 'Dash and dot', dash: [5 * w, 2 * w, w, 2 * w] },
]
const dashKind = () => dashes.find((entry) => entry.dash.join() === props.stroke.dash.join())?.value ?? 'own'
const dashChoices = () => (dashKind() === 'own' ? [...dashes, { value: 'own', name: 'As it is', dash: props.stroke.dash }] : dashes)

const set = (by: LineChange) => emit('done', by)
</script>

<template>
  <div class="line">
    <PaintPick
      label="Line"
      :paint="stroke.paint"
      none-label="no line"
      @live="$event && emit('live', { paint: $event })"
      @done="emit('done', $event ? { paint: $event } : null)" />
    <div class="two">
      <MeasureField
        label="Width of the line"
        short="W"
        :value="Math.round((stroke.width * scale) / RATIO_WHOLE)"
        :unit="bench.piece!.format.unit === 'px' ? 'px' : 'pt'"
        :ppi="bench.piece!.format.ppi"
        :least="0"
        @change="set({ width: $event })" />
      <ChoiceField label="Where the line lies" hide-label :value="stroke.place" :choices="places" @done="set({ place: $event })" />
      <ChoiceField label="Corners of the line" hide-label :value="stroke.join" :choices="joins" @done="set({ join: $event })" />
      <ChoiceField
        label="Dashes of the line"
        hide-label
        :value="dashKind()"
        :choices="dashChoices()"
        @done="set({ dash: dashes.find((entry) => entry.value === $event)?.dash ?? stroke.dash })" />
    </div>
    <ChoiceField v-if="stroke.dash.length" label="Ends" :value="stroke.cap" :choices="caps" @done="set({ cap: $event })" />
  </div>
</template>

<style scoped>
.line {
  display: grid;
  gap: 6px;
}
</style>
