<script setup lang="ts">
import { computed, nextTick, onMounted, onUnmounted, ref, watch } from 'vue'
import type { Area, BrushStroke, CutStroke, PrintCard, PrintPlace, Treatment } from '../generated/types'
import { RATIO_WHOLE } from '../measures'
import { useBench } from '../stores/bench'
import type { Brush, Spot } from './drawing'

/** The picture where it lies on its sheet: the sheet as the stage has it, dimmed but for the picture, with the print in its place. */
const props = defineProps<{
  item: string
  group?: string
  print: PrintCard | null
  before: PrintCard | null
  held: boolean
  split: number | null
  drawing: Area['kind'] | CutStroke | 'neutral' | 'point' | 'spot' | 'corners' | null
  brush: Brush
  step: Treatment | null
}>()
const emit = defineEmits<{ 'update:split': [share: number | null]; drawn: [way: Spot[]] }>()
const bench = useBench()
const view = ref<HTMLElement>()
const sheets = ref<SVGSVGElement[]>([])

const upright = computed(() => (props.group ? null : (bench.plain(props.item)?.look.upright ?? null)))
/** A picture that is set upright lies on the sheet otherwise than it came: it is worked on as it came, by itself. */
const flat = computed<PrintPlace | null>(() => {
  const size = props.print ?? props.before
  if (!size || !(upright.value || props.drawing === 'corners')) return null
  const all: [number, number, number, number] = [0, 0, size.width, size.height]
  return { area: all, field: all, outline: '' }
})
/** Where a print of a part of the sheet lies. */
const place = computed(() => props.print?.on_sheet ?? props.before?.on_sheet ?? flat.value)
const rect = (sides: [number, number, number, number]) => ({ x: sides[0], y: sides[1], w: sides[2], h: sides[3] })
/** What is treated, as a box on the sheet: of a shape its own, of a group that of its members. */
const own = computed(() => (place.value && (props.group || flat.value) ? rect(place.value.field) : bench.drawn.get(props.item)?.frame))
const members = computed(
  () =>
    new Set(
      props.group ? (bench.side?.items ?? []).filter((item) => item.groups?.includes(props.group!)).map((item) => item.id) : [props.item],
    ),
)
const box = computed(() => {
  const frame = own.value
  if (!frame) return '0 0 100 100'
  const gap = Math.max(frame.w, frame.h) * 0.06
  return [frame.x - gap, frame.y - gap, frame.w + 2 * gap, frame.h + 2 * gap].join(' ')
})
/** What lies over the picture would hide what is done to it. */
const above = computed(() => {
  const over = (id: string) => {
    const [frame, mine] = [bench.drawn.get(id)?.frame, own.value]
    return (
      mine && frame && frame.x < mine.x + mine.w && mine.x < frame.x + frame.w && frame.y < mine.y + mine.h && mine.y < frame.y + frame.h
    )
  }
  return new Set(bench.order.slice(bench.order.findLastIndex((id) => members.value.has(id)) + 1).filter(over))
})
/** The pictures of the item in a sheet as drawn here. */
const images = (sheet: SVGSVGElement | undefined) => [...(sheet?.querySelectorAll<SVGImageElement>(`[data-treated] image`) ?? [])]

function put() {
  const [now, old] = sheets.value
  const address = props.held ? props.before?.address : props.print?.address
  if (address) images(now).forEach((image) => image.setAttribute('href', address))
  if (props.before) images(old).forEach((image) => image.setAttribute('href', props.before!.address))
  measure()
}
// What the stage has is drawn first; the print then takes its place.
watch(
  () => [props.print, props.before, props.held, props.split !== null, bench.drawn.get(props.item)?.svg],
  async () => {
    await nextTick()
    put()
  },
  { immediate: true },
)

/** Where a point of the picture, as fractions of it, lies in this view. */
const matrix = ref<DOMMatrix | null>(null)
function measure() {
  const sheet = sheets.value[0]?.getScreenCTM()
  if (place.value && sheet && view.value) {
    const edge = view.value.getBoundingClientRect()
    const [x, y, w, h] = place.value.field
    matrix.value = new DOMMatrix().translate(-edge.left, -edge.top).multiply(DOMMatrix.fromMatrix(sheet)).translate(x, y).scale(w, h)
    return
  }
  const image = images(sheets.value[0])[0]
  const ctm = image?.getScreenCTM()
  if (!image || !ctm || !view.value) {
    matrix.value = null
    return
  }
  const own = view.value.getBoundingClientRect()
  const number = (name: string) => Number(image.getAttribute(name) ?? 0)
  matrix.value = new DOMMatrix()
    .translate(-own.left, -own.top)
    .multiply(DOMMatrix.fromMatrix(ctm))
    .translate(number('x'), number('y'))
    .scale(number('width'), number('height'))
}
const watched = new ResizeObserver(() => measure())
onMounted(() => {
  watched.observe(view.value!)
})
onUnmounted(() => watched.disconnect())
const there = (x: number, y: number) => {
  const p = matrix.value!.transformPoint({ x, y })
  return `${p.x.toFixed(1)},${p.y.toFixed(1)}`
}
const longer = computed(() =>
  matrix.value && props.print ? Math.hypot(matrix.value.a, matrix.value.b) * (props.print.longer / props.print.width) : 0,
)

/** The way a hand has gone over the picture. */
const way = ref<Spot[]>([])
const spot = (event: PointerEvent): Spot => {
  const own = view.value!.getBoundingClientRect()
  const p = matrix.value!.inverse().transformPoint({ x: event.clientX - own.left, y: event.clientY - own.top })
  return { x: p.x, y: p.y }
}
const at = ref<{ x: number; y: number } | null>(null)
function press(event: PointerEvent) {
  if (!props.drawing || props.drawing === 'corners' || !matrix.value || event.button !== 0) return
  view.value!.setPointerCapture(event.pointerId)
  way.value = [spot(event)]
}
function drag(event: PointerEvent) {
  const own = view.value!.getBoundingClientRect()
  at.value = { x: event.clientX - own.left, y: event.clientY - own.top }
  if (!way.value.length || !matrix.value) return
  const next = spot(event)
  const last = way.value.at(-1)!
  if (Math.hypot(next.x - last.x, next.y - last.y) > 0.004) way.value = [...way.value, next]
}
function release() {
  if (!way.value.length) return
  const done = way.value
  way.value = []
  emit('drawn', done)
}

const share = (v: number) => v / RATIO_WHOLE
const line = (points: Spot[]) => points.map((p) => there(p.x, p.y)).join(' ')
/** Whether the hand holds a brush. */
const brushing = computed(() => ['brush', 'keep', 'remove', 'hide', 'show', 'spot'].includes(props.drawing ?? ''))
/** Strokes of the open step, and the one that is being made. */
const strokes = computed<{ points: Spot[]; wide: number; erases: boolean }[]>(() => {
  if (!matrix.value || !brushing.value) return []
  const cut = bench.plain(props.item)?.look.cut_out
  const kept =
    props.drawing === 'keep'
      ? (cut?.keep ?? [])
      : props.drawing === 'remove'
        ? (cut?.remove ?? [])
        : props.drawing !== 'brush'
          ? []
          : (props.step?.mask?.areas ?? []).flatMap((one) => (one.area.kind === 'brush' ? one.area.strokes : []))
  const own = (stroke: BrushStroke) => ({
    points: stroke.points.map((p) => ({ x: share(p.x), y: share(p.y) })),
    wide: share(stroke.radius) * 2 * longer.value,
    erases: stroke.erases,
  })
  return [
    ...kept.map(own),
    ...(way.value.length ? [{ points: way.value, wide: props.brush.radius * 2 * longer.value, erases: props.brush.erases }] : []),
  ]
})
const outlines = computed<string[]>(() => {
  if (!matrix.value || !props.print) return []
  const size = props.print
  const most = size.longer
  const areas = (props.step?.mask?.areas ?? []).map((one) => one.area)
  return areas.flatMap((area) => {
    if (area.kind === 'linear') return [`M${there(share(area.from.x), share(area.from.y))}L${there(share(area.to.x), share(area.to.y))}`]
    if (area.kind !== 'radial') return []
    const points = Array.from({ length: 48 }, (_, n) => {
      const turn = (n / 48) * 2 * Math.PI
      return there(
        share(area.centre.x) + (Math.cos(turn) * share(area.across) * most) / size.width,
        share(area.centre.y) + (Math.sin(turn) * share(area.down) * most) / size.height,
      )
    })
    return [`M${points.join('L')}Z`]
  })
})

/** The four corners as they are, or as a hand is just moving one. */
const moved = ref<{ at: number; to: Spot } | null>(null)
const corners = computed<Spot[]>(() => {
  if (props.drawing !== 'corners' || !matrix.value) return []
  const kept = upright.value?.corners?.map((corner) => ({ x: share(corner.x), y: share(corner.y) })) ?? [
    { x: 0, y: 0 },
    { x: 1, y: 0 },
    { x: 1, y: 1 },
    { x: 0, y: 1 },
  ]
  return kept.map((corner, at) => (moved.value?.at === at ? moved.value.to : corner))
})
function takeCorner(event: PointerEvent, at: number) {
  ;(event.target as HTMLElement).setPointerCapture(event.pointerId)
  moved.value = { at, to: corners.value[at]! }
}
function moveCorner(event: PointerEvent) {
  if (!moved.value) return
  moved.value = { at: moved.value.at, to: spot(event) }
}
function letCorner() {
  if (!moved.value) return
  const all = corners.value
  moved.value = null
  emit('drawn', all)
}
/** A corner goes by keys, too. */
function nudge(at: number, x: number, y: number) {
  emit(
    'drawn',
    corners.value.map((corner, n) => (n === at ? { x: corner.x + x * 0.005, y: corner.y + y * 0.005 } : corner)),
  )
}
const cornerNames = ['Top left corner', 'Top right corner', 'Bottom right corner', 'Bottom left corner']
const cornerAt = (corner: Spot) => {
  const p = matrix.value!.transformPoint(corner)
  return { left: `${p.x}px`, top: `${p.y}px` }
}

function pull(event: PointerEvent) {
  if (!event.buttons) return
  const own = view.value!.getBoundingClientRect()
  emit('update:split', Math.min(Math.max((event.clientX - own.left) / own.width, 0.02), 0.98))
}
</script>

<!-- eslint-disable vue/no-v-html -- as in SheetDrawing -->
<template>
  <div
    ref="view"
    class="view"
    :class="{ drawing }"
    @pointerdown="press"
    @pointermove="drag"
    @pointerup="release"
    @pointercancel="way = []"
    @pointerleave="at = null">
    <svg
      v-for="layer in split === null ? 1 : 2"
      :key="layer"
      :ref="
        (el) => {
          if (el) sheets[layer - 1] = el as SVGSVGElement
        }
      "
      :viewBox="box"
      :style="layer === 2 ? { clipPath: `inset(0 ${(1 - split!) * 100}% 0 0)` } : {}"
      aria-hidden="true">
      <g v-if="!flat" class="around" v-html="bench.ground" />
      <template v-for="id in flat ? [] : bench.order" :key="id">
        <g
          v-if="!place || !members.has(id)"
          :class="{ around: id !== item, over: above.has(id) }"
          :data-treated="id === item ? '' : undefined"
          v-html="bench.drawn.get(id)?.svg ?? ''" />
      </template>
      <template v-if="place">
        <clipPath v-if="place.outline" :id="`seen-${layer}`"><path :d="place.outline" /></clipPath>
        <g :clip-path="place.outline ? `url(#seen-${layer})` : undefined">
          <image
            preserveAspectRatio="none"
            :x="place.area[0]"
            :y="place.area[1]"
            :width="place.area[2]"
            :height="place.area[3]"
            :href="(layer === 2 || held ? before : print)?.address" />
        </g>
      </template>
    </svg>
    <svg class="marks" aria-hidden="true">
      <defs>
        <pattern id="mask-lines" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0V7" class="dark" />
          <path d="M3.5 0V7" class="light" />
        </pattern>
      </defs>
      <polyline
        v-for="(stroke, n) in strokes"
        :key="n"
        :points="line(stroke.points.length > 1 ? stroke.points : [...stroke.points, ...stroke.points])"
        :stroke-width="stroke.wide"
        :class="{ erases: stroke.erases }"
        class="stroke" />
      <template v-for="(path, n) in outlines" :key="`o${n}`">
        <path :d="path" class="edge dark" />
        <path :d="path" class="edge light" />
      </template>
      <polyline v-if="way.length > 1 && !brushing" :points="line([way[0]!, way.at(-1)!])" class="edge light" />
      <circle v-if="brushing && at" :cx="at.x" :cy="at.y" :r="brush.radius * longer" class="tip" />
    </svg>
    <template v-if="corners.length">
      <svg class="marks" aria-hidden="true">
        <polygon :points="line(corners)" class="edge dark" />
        <polygon :points="line(corners)" class="edge light" />
      </svg>
      <button
        v-for="(corner, n) in corners"
        :key="n"
        class="corner"
        :style="cornerAt(corner)"
        :aria-label="cornerNames[n]"
        @pointerdown.stop.prevent="takeCorner($event, n)"
        @pointermove.stop="moveCorner"
        @pointerup.stop="letCorner"
        @pointercancel="moved = null"
        @keydown.left.prevent="nudge(n, -1, 0)"
        @keydown.right.prevent="nudge(n, 1, 0)"
        @keydown.up.prevent="nudge(n, 0, -1)"
        @keydown.down.prevent="nudge(n, 0, 1)" />
    </template>
    <div
      v-if="split !== null"
      class="divider"
      :style="{ left: `${split * 100}%` }"
      role="slider"
      aria-label="As it came, and as it is now"
      :aria-valuenow="Math.round(split * 100)"
      tabindex="0"
      @pointerdown.stop.prevent="($event.target as HTMLElement).setPointerCapture($event.pointerId)"
      @pointermove.stop="pull"
      @keydown.left.prevent="emit('update:split', Math.max(split - 0.02, 0.02))"
      @keydown.right.prevent="emit('update:split', Math.min(split + 0.02, 0.98))" />
  </div>
</template>

<style scoped>
.view {
  position: relative;
  min-width: 0;
  min-height: 0;
  background: var(--stage);
  overflow: hidden;
  touch-action: none;
}

.view > svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}

.drawing {
  cursor: crosshair;
}

.around {
  opacity: 0.16;
}

.over {
  visibility: hidden;
}

.marks {
  pointer-events: none;
}

.stroke {
  fill: none;
  stroke: url('#mask-lines');
  stroke-linecap: round;
  stroke-linejoin: round;
  opacity: 0.6;
}

.stroke.erases {
  stroke: var(--mark-light);
  stroke-dasharray: 2 5;
  opacity: 0.35;
}

.dark {
  stroke: var(--mark-dark);
}

.light {
  stroke: var(--mark-light);
}

.edge {
  fill: none;
  stroke-width: 1.5;
}

.edge.light {
  stroke-dasharray: 5 5;
}

.tip {
  fill: none;
  stroke: var(--mark-light);
  mix-blend-mode: difference;
}

.corner {
  position: absolute;
  width: 24px;
  height: 24px;
  min-height: 0;
  margin: -12px 0 0 -12px;
  padding: 0;
  border: 2px solid var(--mark-light);
  outline: 1px solid var(--mark-dark);
  background: transparent;
  cursor: move;
  touch-action: none;
}

.divider {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 15px;
  margin-left: -7px;
  background: linear-gradient(
    90deg,
    transparent 6px,
    var(--mark-dark) 6px,
    var(--mark-dark) 7px,
    var(--mark-light) 7px,
    var(--mark-light) 9px,
    transparent 9px
  );
  cursor: ew-resize;
}
</style>
