<script setup lang="ts">
import { computed } from 'vue'
import type { Outline } from '../generated/types'
import { ANGLE_DEGREE, RATIO_WHOLE, toRatio } from '../measures'
import { useBench, type Plain } from '../stores/bench'
import AngleField from '../parts/AngleField.vue'
import MeasureField from '../parts/MeasureField.vue'
import NumberField from '../parts/NumberField.vue'
import ShareField from '../parts/ShareField.vue'

/** The numbers of a shape or of the frame of a picture: corners, points, depths, thickness. */
const props = defineProps<{ plain: Plain }>()
const bench = useBench()
let gesture = ''

const outline = computed<Outline | null>(() =>
  props.plain.content.kind === 'shape'
    ? props.plain.content.outline
    : props.plain.content.kind === 'picture'
      ? props.plain.content.frame
      : null,
)
const format = computed(() => bench.piece!.format)
/** Stored lengths are those of a place scale of one. */
const scale = computed(() => props.plain.item.place.scale / RATIO_WHOLE)
const shown = (length: number) => Math.round(length * scale.value)
const stored = (fine: number) => Math.round(fine / scale.value)
const percent = (ratio: number) => (ratio / RATIO_WHOLE) * 100

function set(next: Outline, live = false) {
  void bench.act({ act: 'setOutline', item: props.plain.item.id, outline: next }, live ? gesture : undefined)
}

function begin() {
  gesture = `outline-${crypto.randomUUID()}`
}

const cornerNames = ['Upper left', 'Upper right', 'Lower right', 'Lower left']
function corner(index: number, fine: number) {
  if (outline.value?.kind !== 'corners') return
  const radii = outline.value.radii.map((radius, i) => (i === index ? stored(fine) : radius)) as [number, number, number, number]
  set({ kind: 'corners', radii })
}
</script>

<template>
  <section v-if="outline && !['ellipse', 'arch', 'path', 'combined', 'line'].includes(outline.kind)" @pointerdown.capture="begin">
    <h3>Shape</h3>
    <template v-if="outline.kind === 'rect'">
      <div class="two">
        <MeasureField
          label="Corner radius"
          short="Corners"
          :value="shown(outline.radius)"
          :unit="format.unit"
          :ppi="format.ppi"
          :least="0"
          @change="set({ kind: 'rect', radius: stored($event) })" />
        <button class="act" @click="set({ kind: 'corners', radii: [outline.radius, outline.radius, outline.radius, outline.radius] })">
          Each its own
        </button>
      </div>
    </template>
    <template v-else-if="outline.kind === 'corners'">
      <div class="two">
        <MeasureField
          v-for="i in [0, 1, 3, 2]"
          :key="i"
          :label="`${cornerNames[i]} corner`"
          :short="['↖', '↗', '↘', '↙'][i]!"
          :value="shown(outline.radii[i]!)"
          :unit="format.unit"
          :ppi="format.ppi"
          :least="0"
          @change="corner(i, $event)" />
      </div>
      <button class="act" @click="set({ kind: 'rect', radius: outline.radii[0] })">All corners alike</button>
    </template>
    <template v-else-if="outline.kind === 'star'">
      <label
        ><span>Points</span
        ><NumberField
          label="Points"
          :value="outline.points"
          :least="3"
          :most="120"
          whole
          @done="(points) => outline?.kind === 'star' && set({ ...outline, points })"
      /></label>
      <ShareField
        label="Notches"
        :value="percent(outline.depth)"
        @live="(v) => outline?.kind === 'star' && set({ ...outline, depth: toRatio(v / 100) }, true)"
        @done="(v) => outline?.kind === 'star' && set({ ...outline, depth: toRatio(v / 100) }, true)" />
    </template>
    <label v-else-if="outline.kind === 'polygon'"
      ><span>Corners</span
      ><NumberField
        label="Corners"
        :value="outline.points"
        :least="3"
        :most="60"
        whole
        @done="(points) => set({ kind: 'polygon', points })"
    /></label>
    <ShareField
      v-else-if="outline.kind === 'ring'"
      label="Band"
      :value="percent(outline.thickness)"
      @live="set({ kind: 'ring', thickness: toRatio($event / 100) }, true)"
      @done="set({ kind: 'ring', thickness: toRatio($event / 100) }, true)" />
    <template v-else-if="outline.kind === 'sector'">
      <div class="two">
        <AngleField
          label="Begins at"
          short="From"
          :value="outline.start"
          @done="outline?.kind === 'sector' && set({ ...outline, start: $event })" />
        <AngleField
          label="Goes on for"
          short="For"
          :most="359"
          :value="outline.sweep"
          @done="outline?.kind === 'sector' && $event > ANGLE_DEGREE / 10 && set({ ...outline, sweep: $event })" />
      </div>
      <ShareField
        label="Band"
        :value="percent(outline.thickness)"
        @live="(v) => outline?.kind === 'sector' && set({ ...outline, thickness: toRatio(v / 100) }, true)"
        @done="(v) => outline?.kind === 'sector' && set({ ...outline, thickness: toRatio(v / 100) }, true)" />
    </template>
    <template v-else-if="outline.kind === 'arrow'">
      <ShareField
        label="Head"
        :max="400"
        :value="percent(outline.head)"
        @live="(v) => outline?.kind === 'arrow' && set({ ...outline, head: toRatio(v / 100) }, true)"
        @done="(v) => outline?.kind === 'arrow' && set({ ...outline, head: toRatio(v / 100) }, true)" />
      <ShareField
        label="Shaft"
        :value="percent(outline.shaft)"
        @live="(v) => outline?.kind === 'arrow' && set({ ...outline, shaft: toRatio(v / 100) }, true)"
        @done="(v) => outline?.kind === 'arrow' && set({ ...outline, shaft: toRatio(v / 100) }, true)" />
    </template>
    <ShareField
      v-else-if="outline.kind === 'speech'"
      label="Tail"
      :value="percent(outline.tail)"
      @live="set({ kind: 'speech', tail: toRatio($event / 100) }, true)"
      @done="set({ kind: 'speech', tail: toRatio($event / 100) }, true)" />
    <ShareField
      v-else-if="outline.kind === 'ribbon'"
      label="Notches"
      :value="percent(outline.notch)"
      @live="set({ kind: 'ribbon', notch: toRatio($event / 100) }, true)"
      @done="set({ kind: 'ribbon', notch: toRatio($event / 100) }, true)" />
    <ShareField
      v-else-if="outline.kind === 'ticket'"
      label="Bites"
      :value="percent(outline.bite)"
      @live="set({ kind: 'ticket', bite: toRatio($event / 100) }, true)"
      @done="set({ kind: 'ticket', bite: toRatio($event / 100) }, true)" />
    <label v-else-if="outline.kind === 'blob'"
      ><span>Number</span
      ><NumberField
        label="Number of the blob"
        :value="outline.seed"
        :least="0"
        :most="65535"
        whole
        @done="(seed) => set({ kind: 'blob', seed })"
    /></label>
    <template v-else-if="outline.kind === 'torn'">
      <label
        ><span>Number</span
        ><NumberField
          label="Number of the tear"
          :value="outline.seed"
          :least="0"
          :most="65535"
          whole
          @done="(seed) => outline?.kind === 'torn' && set({ ...outline, seed })"
      /></label>
      <ShareField
        label="Depth"
        :value="percent(outline.depth)"
        @live="(v) => outline?.kind === 'torn' && set({ ...outline, depth: toRatio(v / 100) }, true)"
        @done="(v) => outline?.kind === 'torn' && set({ ...outline, depth: toRatio(v / 100) }, true)" />
    </template>
    <template v-else-if="outline.kind === 'hand'">
      <div class="two">
        <MeasureField
          label="Thickness"
          short="Thick"
          :value="shown(outline.hand.thickness)"
          :unit="format.unit"
          :ppi="format.ppi"
          :least="1"
          @change="outline?.kind === 'hand' && set({ kind: 'hand', hand: { ...outline.hand, thickness: stored($event) } })" />
        <label
          ><span>Smooth</span
          ><NumberField
            label="Smoothing, 0 to 10"
            :value="outline.hand.smoothing"
            :least="0"
            :most="10"
            whole
            @done="(smoothing) => outline?.kind === 'hand' && set({ kind: 'hand', hand: { ...outline.hand, smoothing } })"
        /></label>
      </div>
      <ShareField
        label="Thins by"
        :value="outline.hand.thinning"
        @live="(v) => outline?.kind === 'hand' && set({ kind: 'hand', hand: { ...outline.hand, thinning: Math.round(v) } }, true)"
        @done="(v) => outline?.kind === 'hand' && set({ kind: 'hand', hand: { ...outline.hand, thinning: Math.round(v) } }, true)" />
    </template>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 8px;
}

label {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  align-items: center;
  gap: 6px;
}

label span {
  font-size: var(--text-1);
  color: var(--ink-3);
}
</style>
