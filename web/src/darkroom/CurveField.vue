<script setup lang="ts">
import { ElRadioButton, ElRadioGroup } from 'element-plus'
import { computed, ref } from 'vue'
import type { CurvePoint, Develop } from '../generated/types'
import { RATIO_WHOLE, toRatio } from '../measures'

/** Curves through points: press where there is none to add one, drag, and drag out of the field to take it away. */
const props = defineProps<{ develop: Extract<Develop, { kind: 'curves' }> }>()
const emit = defineEmits<{ live: [by: Partial<Develop>]; done: [by: Partial<Develop>] }>()
type Channel = 'all' | 'red' | 'green' | 'blue'
const channel = ref<Channel>('all')
const field = ref<SVGSVGElement>()
const points = computed(() => props.develop[channel.value])
const held = ref<number | null>(null)
const size = 240
const at = (point: CurvePoint) => ({ x: (point.x / RATIO_WHOLE) * size, y: size - (point.y / RATIO_WHOLE) * size })
const from = (event: PointerEvent) => {
  const box = field.value!.getBoundingClientRect()
  return { x: (event.clientX - box.left) / box.width, y: 1 - (event.clientY - box.top) / box.height }
}
const put = (list: CurvePoint[], live: boolean) =>
  live ? emit('live', { [channel.value]: list }) : emit('done', { [channel.value]: list })

function press(event: PointerEvent) {
  field.value!.setPointerCapture(event.pointerId)
  const p = from(event)
  const near = points.value.findIndex((point) => Math.hypot(point.x / RATIO_WHOLE - p.x, point.y / RATIO_WHOLE - p.y) < 0.05)
  if (near >= 0) {
    held.value = near
    return
  }
  const next = [...points.value, { x: toRatio(Math.min(Math.max(p.x, 0), 1)), y: toRatio(Math.min(Math.max(p.y, 0), 1)) }].toSorted(
    (a, b) => a.x - b.x,
  )
  held.value = next.findIndex((point) => point.x === toRatio(Math.min(Math.max(p.x, 0), 1)))
  put(next, true)
}
function drag(event: PointerEvent) {
  if (held.value === null) return
  const p = from(event)
  const list = [...points.value]
  const inner = held.value > 0 && held.value < list.length - 1
  // Drawn out of the field a point is let go of.
  if (inner && (p.y < -0.15 || p.y > 1.15)) {
    list.splice(held.value, 1)
    held.value = null
    put(list, false)
    return
  }
  const low = held.value > 0 ? list[held.value - 1]!.x / RATIO_WHOLE + 0.01 : 0
  const high = held.value < list.length - 1 ? list[held.value + 1]!.x / RATIO_WHOLE - 0.01 : 1
  list[held.value] = { x: toRatio(Math.min(Math.max(p.x, low), high)), y: toRatio(Math.min(Math.max(p.y, 0), 1)) }
  put(list, true)
}
function release() {
  if (held.value === null) return
  held.value = null
  put(points.value, false)
}
/** The arrow keys move a point by one level, Delete takes it away. */
function key(event: KeyboardEvent, n: number) {
  const by = { ArrowUp: [0, 1], ArrowDown: [0, -1], ArrowLeft: [-1, 0], ArrowRight: [1, 0] }[event.key]
  const list = [...points.value]
  if (by) {
    const step = RATIO_WHOLE / 255
    const held = (v: number) => Math.min(Math.max(Math.round(v), 0), RATIO_WHOLE)
    list[n] = { x: held(list[n]!.x + by[0]! * step), y: held(list[n]!.y + by[1]! * step) }
  } else if (event.key === 'Delete' && n > 0 && n < list.length - 1) list.splice(n, 1)
  else return
  event.preventDefault()
  event.stopPropagation()
  put(list, false)
}

/** The same curve as the one that is used, drawn through its points: monotone cubics. */
const line = computed(() => {
  const all = points.value.map((point) => [point.x / RATIO_WHOLE, point.y / RATIO_WHOLE] as const)
  if (all.length < 2) return `M0 ${size}L${size} 0`
  const slopes = all.slice(1).map((p, n) => (p[1] - all[n]![1]) / (p[0] - all[n]![0]))
  const tangents = all.map((_, n) =>
    n === 0 ? slopes[0]! : n === all.length - 1 ? slopes[n - 1]! : slopes[n - 1]! * slopes[n]! <= 0 ? 0 : (slopes[n - 1]! + slopes[n]!) / 2,
  )
  slopes.forEach((slope, n) => {
    if (slope === 0) {
      tangents[n] = tangents[n + 1] = 0
      return
    }
    const far = Math.hypot(tangents[n]! / slope, tangents[n + 1]! / slope)
    if (far > 3) {
      tangents[n] = (3 / far) * tangents[n]!
      tangents[n + 1] = (3 / far) * tangents[n + 1]!
    }
  })
  const place = (x: number, y: number) => `${(x * size).toFixed(1)} ${(size - y * size).toFixed(1)}`
  let path = `M${place(0, all[0]![1])}L${place(...all[0]!)}`
  for (let n = 0; n + 1 < all.length; n++) {
    const [a, b] = [all[n]!, all[n + 1]!]
    const third = (b[0] - a[0]) / 3
    path += `C${place(a[0] + third, a[1] + tangents[n]! * third)} ${place(b[0] - third, b[1] - tangents[n + 1]! * third)} ${place(...b)}`
  }
  return `${path}L${place(1, all.at(-1)![1])}`
})
</script>

<template>
  <div class="curves">
    <ElRadioGroup v-model="channel" size="small" aria-label="Channel">
      <ElRadioButton value="all">All</ElRadioButton><ElRadioButton value="red">Red</ElRadioButton
      ><ElRadioButton value="green">Green</ElRadioButton><ElRadioButton value="blue">Blue</ElRadioButton>
    </ElRadioGroup>
    <svg
      ref="field"
      :viewBox="`-8 -8 ${size + 16} ${size + 16}`"
      @pointerdown.prevent="press"
      @pointermove="drag"
      @pointerup="release"
      @pointercancel="release">
      <path
        class="grid"
        :d="`M0 0H${size}V${size}H0ZM${size / 4} 0V${size}M${size / 2} 0V${size}M${(size * 3) / 4} 0V${size}M0 ${size / 4}H${size}M0 ${size / 2}H${size}M0 ${(size * 3) / 4}H${size}`" />
      <path class="plain" :d="`M0 ${size}L${size} 0`" />
      <path class="line" :d="line" />
      <rect
        v-for="(point, n) in points"
        :key="n"
        tabindex="0"
        role="slider"
        :aria-label="`Point ${n + 1}`"
        :aria-valuenow="Math.round((point.y / RATIO_WHOLE) * 255)"
        :x="at(point).x - 5"
        :y="at(point).y - 5"
        width="10"
        height="10"
        :class="{ held: held === n }"
        @keydown="key($event, n)" />
    </svg>
  </div>
</template>

<style scoped>
.curves {
  display: grid;
  gap: 8px;
}

svg {
  width: 100%;
  background: var(--paper-2);
  touch-action: none;
  cursor: crosshair;
}

.grid {
  fill: none;
  stroke: var(--rule);
}

.plain {
  stroke: var(--rule-strong);
  stroke-dasharray: 3 4;
}

.line {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}

rect {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 1.5;
}

rect.held,
rect:focus-visible {
  fill: var(--ink);
  outline: none;
}
</style>
