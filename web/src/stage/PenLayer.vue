<script setup lang="ts">
import { ref } from 'vue'
import type { PenPoint } from '../generated/types'
import { toCssPx, toFine } from '../measures'
import { useBench } from '../stores/bench'
import MeasureField from '../parts/MeasureField.vue'
import NumberField from '../parts/NumberField.vue'
import type { Dot } from './geometry'
import type { Viewport } from './use-viewport'

/** Drawing by hand: each line is taken as the pen makes it and comes back as an item. */
const props = defineProps<{ viewport: Viewport }>()
const bench = useBench()
const layer = ref<HTMLElement>()
const trail = ref<Dot[]>([])
let line: PenPoint[] = []
let pointer: number | null = null

function point(event: PointerEvent) {
  const box = layer.value!.getBoundingClientRect()
  const screen = { x: event.clientX - box.left, y: event.clientY - box.top }
  const at = props.viewport.toSheet(screen)
  trail.value = [...trail.value, screen]
  // A mouse has no pressure of its own and reports half.
  const press = event.pointerType === 'pen' ? Math.round(event.pressure * 255) : 255
  line.push({ at: { x: toFine(at.x), y: toFine(at.y) }, press })
}

function begin(event: PointerEvent) {
  if (event.button !== 0 || pointer !== null) return
  layer.value!.setPointerCapture(event.pointerId)
  pointer = event.pointerId
  line = []
  trail.value = []
  point(event)
}

function draw(event: PointerEvent) {
  if (event.pointerId !== pointer) return
  const all = event.getCoalescedEvents?.() ?? []
  for (const one of all.length ? all : [event]) point(one)
}

async function end(event: PointerEvent) {
  const pen = bench.pen
  if (event.pointerId !== pointer || !pen) return
  pointer = null
  const { thickness, smoothing, thinning } = pen
  const drawn = line
  line = []
  const made = await bench.add({ kind: 'hand', lines: [drawn], thickness, smoothing, thinning })
  trail.value = []
  bench.selection = []
  if (bench.pen) bench.pen.made.push(...made)
}
</script>

<template>
  <div
    ref="layer"
    class="layer"
    aria-hidden="true"
    @pointerdown.prevent.stop="begin"
    @pointermove="draw"
    @pointerup="end"
    @pointercancel="end">
    <svg>
      <polyline :points="trail.map((p) => `${p.x},${p.y}`).join(' ')" :stroke-width="toCssPx(bench.pen!.thickness) * viewport.view.scale" />
    </svg>
  </div>
  <div v-if="bench.pen" class="pen" role="toolbar" aria-label="Pen" @pointerdown.stop @dblclick.stop>
    <MeasureField
      label="Thickness of the pen"
      short="Thick"
      :value="bench.pen.thickness"
      :unit="bench.piece!.format.unit"
      :ppi="bench.piece!.format.ppi"
      :least="1"
      @change="bench.pen!.thickness = $event" />
    <label
      ><span>Smooth</span
      ><NumberField
        label="Smoothing, 0 to 10"
        :value="bench.pen.smoothing"
        :least="0"
        :most="10"
        whole
        @done="bench.pen!.smoothing = $event"
    /></label>
    <label
      ><span>Thins by</span
      ><NumberField
        label="How far light pressure thins the line"
        :value="bench.pen.thinning"
        :least="0"
        :most="100"
        unit="%"
        whole
        @done="bench.pen!.thinning = $event"
    /></label>
    <button class="act next" @click="bench.draw(false)">Done</button>
  </div>
</template>

<style scoped>
.layer {
  position: absolute;
  inset: 0;
  cursor: crosshair;
  touch-action: none;
}

svg {
  width: 100%;
  height: 100%;
}

polyline {
  fill: none;
  stroke: var(--mark-dark);
  stroke-linecap: round;
  stroke-linejoin: round;
  opacity: 0.75;
}

.pen {
  position: absolute;
  left: 50%;
  top: 10px;
  transform: translateX(-50%);
  display: grid;
  grid-template-columns: 130px 96px 112px auto;
  gap: 12px;
  padding: 8px 10px;
  background: var(--paper);
  border-radius: 4px;
  box-shadow: var(--lift);
}

label {
  display: grid;
  grid-template-columns: auto 1fr;
  align-items: center;
  gap: 6px;
}

label span {
  color: var(--ink-3);
  font-size: var(--text-1);
}
</style>
