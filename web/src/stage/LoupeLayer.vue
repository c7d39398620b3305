<script setup lang="ts">
import { computed, nextTick, onMounted, ref } from 'vue'
import { api } from '../api/client'
import { useBench } from '../stores/bench'
import type { Dot } from './geometry'
import type { Viewport } from './use-viewport'

/** A magnifier over the sheet as it is exported; what it takes is the colour of exactly one pixel. */
const props = defineProps<{ viewport: Viewport }>()
const emit = defineEmits<{ take: [color: string, at: Dot]; away: [] }>()
const bench = useBench()

const CELLS = 11
const CELL = 12
const layer = ref<HTMLElement>()
const lens = ref<HTMLCanvasElement>()
const at = ref<Dot | null>(null)
const color = ref<string | null>(null)
let source: CanvasRenderingContext2D | null = null
let scale = 1

onMounted(async () => {
  const { width } = bench.sheet
  const pixels = Math.round(Math.min(2_000, Math.max(width, 400)))
  const side = bench.sideId
  const piece = bench.piece
  if (!bench.job || !side || !piece) return emit('away')
  const picture = new Image()
  picture.src = api.sheetPicture(bench.job.id, side, pixels, bench.stamps[piece.id] ?? 0)
  await picture.decode().catch(() => emit('away'))
  const canvas = new OffscreenCanvas(picture.naturalWidth, picture.naturalHeight) as unknown as HTMLCanvasElement
  source = canvas.getContext('2d', { willReadFrequently: true })
  source?.drawImage(picture, 0, 0)
  scale = picture.naturalWidth / width
  layer.value?.focus()
  look({ x: props.viewport.width.value / 2, y: props.viewport.height.value / 2 })
})

const sheetPoint = computed(() => (at.value ? props.viewport.toSheet(at.value) : null))

function look(screen: Dot) {
  at.value = screen
  const p = props.viewport.toSheet(screen)
  const [x, y] = [Math.floor(p.x * scale), Math.floor(p.y * scale)]
  if (!source) return
  void nextTick(() => magnify(x, y))
  const inside = x >= 0 && y >= 0 && x < source.canvas.width && y < source.canvas.height
  const [r = 0, g = 0, b = 0, a = 0] = inside ? source.getImageData(x, y, 1, 1).data : []
  color.value = a === 255 ? `#${[r, g, b].map((v) => v.toString(16).padStart(2, '0')).join('')}` : null
}

function magnify(x: number, y: number) {
  const context = lens.value?.getContext('2d')
  if (!source || !context) return
  context.imageSmoothingEnabled = false
  context.clearRect(0, 0, CELLS * CELL, CELLS * CELL)
  const half = (CELLS - 1) / 2
  context.drawImage(source.canvas, x - half, y - half, CELLS, CELLS, 0, 0, CELLS * CELL, CELLS * CELL)
}

function move(event: PointerEvent) {
  const box = layer.value!.getBoundingClientRect()
  look({ x: event.clientX - box.left, y: event.clientY - box.top })
}

function key(event: KeyboardEvent) {
  const by: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }
  const step = by[event.key]
  event.stopPropagation()
  if (step && at.value) {
    // One pixel of the picture, or ten.
    const far = ((event.shiftKey ? 10 : 1) * props.viewport.view.scale) / scale
    look({ x: at.value.x + step[0] * far, y: at.value.y + step[1] * far })
  } else if (event.key === 'Enter') take()
  else if (event.key === 'Escape') emit('away')
  else return
  event.preventDefault()
}

function take() {
  if (color.value && sheetPoint.value) emit('take', color.value, sheetPoint.value)
}
function takeAt(event: PointerEvent) {
  move(event)
  take()
}
</script>

<template>
  <div
    ref="layer"
    class="layer"
    tabindex="0"
    role="application"
    aria-label="Loupe. Arrow keys move it by a pixel, Enter takes the colour, Escape puts it away."
    @pointermove="move"
    @pointerdown.prevent.stop="takeAt"
    @keydown="key">
    <figure v-if="at" :style="{ left: `${at.x}px`, top: `${at.y}px` }">
      <canvas ref="lens" :width="CELLS * CELL" :height="CELLS * CELL" />
      <figcaption aria-live="polite">{{ color ?? 'nothing here' }}</figcaption>
    </figure>
  </div>
</template>

<style scoped>
.layer {
  position: absolute;
  inset: 0;
  cursor: none;
  touch-action: none;
}

figure {
  position: absolute;
  margin: 0;
  transform: translate(-50%, -50%);
  pointer-events: none;
}

canvas {
  display: block;
  border: 3px solid var(--ink);
  border-radius: 6px;
  box-shadow:
    0 0 0 1px var(--paper),
    var(--lift);
  background: repeating-conic-gradient(#d8d8d8 0 25%, #fff 0 50%) 0 0 / 12px 12px;
}

figure::after {
  content: '';
  position: absolute;
  left: calc(50% - 7px);
  top: 65px;
  width: 14px;
  height: 14px;
  margin-top: -3px;
  box-shadow:
    0 0 0 1.5px var(--mark-dark),
    0 0 0 3px var(--mark-light);
}

figcaption {
  width: max-content;
  margin: 6px auto 0;
  padding: 2px 8px;
  border-radius: 3px;
  background: var(--ink);
  color: var(--paper);
  font-size: var(--text-1);
}
</style>
