<script setup lang="ts">
import { Plus, X } from '@lucide/vue'
import { computed } from 'vue'
import { api } from '../api/client'
import type { Motif, Paint, Stop, Tint } from '../generated/types'
import { RATIO_WHOLE, toFine, toRatio } from '../measures'
import { useBench } from '../stores/bench'
import { useShelf } from '../stores/shelf'
import AngleField from '../parts/AngleField.vue'
import ChoiceField from '../parts/ChoiceField.vue'
import ColorPick from './ColorPick.vue'
import MeasureField from '../parts/MeasureField.vue'
import ShareField from '../parts/ShareField.vue'

/** What an area is filled with: nothing, a colour, a gradient, a pattern or a picture. */
const props = defineProps<{ label: string; paint: Paint | null; noneLabel?: string; compact?: boolean; rest?: boolean }>()
const emit = defineEmits<{ live: [paint: Paint | null]; done: [paint: Paint | null] }>()
const bench = useBench()
const shelf = useShelf()

type Kind = Paint['kind'] | 'none'
const kind = computed<Kind>(() => props.paint?.kind ?? 'none')
const kinds = computed(() => {
  const all: { value: Kind; name: string }[] = [
    { value: 'flat', name: 'One colour' },
    { value: 'linear', name: 'Colours along a line' },
    { value: 'radial', name: 'Colours from the middle' },
    { value: 'conic', name: 'Colours going round' },
    { value: 'pattern', name: 'Pattern' },
    { value: 'picture', name: 'Picture' },
  ]
  return props.noneLabel ? [...all, { value: 'none' as Kind, name: props.noneLabel }] : all
})
const motifs: { value: Motif; name: string }[] = [
  { value: 'dots', name: 'Dots' },
  { value: 'stripes', name: 'Stripes' },
  { value: 'checks', name: 'Checks' },
  { value: 'lattice', name: 'Lattice' },
  { value: 'zigzag', name: 'Zigzag' },
  { value: 'scales', name: 'Scales' },
  { value: 'crosses', name: 'Crosses' },
]

const stops = computed<Stop[]>(() => (props.paint && 'stops' in props.paint ? props.paint.stops : []))
const first = computed<Tint>(() => {
  const paint = props.paint
  if (paint?.kind === 'flat') return paint.tint
  if (paint?.kind === 'pattern') return paint.ink
  return stops.value[0]?.tint ?? '#23201d'
})
const second = computed<Tint>(
  () =>
    stops.value.at(-1)?.tint ??
    Object.keys(bench.job?.swatches ?? {})
      .map((id) => `@${id}`)
      .find((tint) => tint !== first.value) ??
    '#f4efe6',
)
const format = computed(() => bench.piece!.format)

/** Another kind of fill begins with the colours there are. */
function become(next: Kind) {
  const pair: Stop[] =
    stops.value.length > 1
      ? stops.value
      : [
          { at: 0, tint: first.value, opacity: RATIO_WHOLE },
          { at: RATIO_WHOLE, tint: second.value, opacity: RATIO_WHOLE },
        ]
  const angle = props.paint && 'angle' in props.paint ? props.paint.angle : 0
  const made: Record<Kind, () => Paint | null> = {
    none: () => null,
    flat: () => ({ kind: 'flat', tint: first.value, opacity: RATIO_WHOLE }),
    linear: () => ({ kind: 'linear', angle, stops: pair }),
    radial: () => ({ kind: 'radial', stops: pair }),
    conic: () => ({ kind: 'conic', angle, stops: pair }),
    pattern: () => ({ kind: 'pattern', motif: 'dots', ink: first.value, ground: second.value, size: toFine(24), angle: 0 }),
    picture: () =>
      shelf.pictures[0]
        ? { kind: 'picture', picture: shelf.pictures[0].id, focus: { x: RATIO_WHOLE / 2, y: RATIO_WHOLE / 2 }, zoom: RATIO_WHOLE }
        : props.paint,
  }
  emit('done', made[next]())
}

function change(by: Partial<Paint>, live = false) {
  const next = { ...props.paint, ...by } as Paint
  if (live) emit('live', next)
  else emit('done', next)
}

function setStop(index: number, by: Partial<Stop>, live = false) {
  const list = stops.value.map((stop, i) => (i === index ? { ...stop, ...by } : stop)).toSorted((a, b) => a.at - b.at)
  change({ stops: list } as Partial<Paint>, live)
}

function addStop() {
  const list = stops.value
  const [a, b] = [list.at(-2)!, list.at(-1)!]
  change({ stops: [...list.slice(0, -1), { ...b, at: Math.round((a.at + b.at) / 2) }, b] } as Partial<Paint>)
}
const removeStop = (index: number) => change({ stops: stops.value.filter((_, i) => i !== index) } as Partial<Paint>)
</script>

<template>
  <div class="paint">
    <ColorPick
      v-if="paint?.kind === 'flat' && !rest"
      :label="label"
      :tint="paint.tint"
      :none-label="noneLabel"
      @live="change({ tint: $event } as Partial<Paint>, true)"
      @done="change({ tint: $event } as Partial<Paint>)"
      @none="emit('done', null)" />
    <ChoiceField
      v-if="!compact || paint?.kind !== 'flat'"
      :label="paint?.kind === 'flat' ? 'Filled with' : label"
      :value="kind"
      :choices="kinds"
      @done="become" />
    <ShareField
      v-if="paint?.kind === 'flat' && !compact"
      label="Strength"
      :value="(paint.opacity / RATIO_WHOLE) * 100"
      @live="change({ opacity: toRatio($event / 100) } as Partial<Paint>, true)"
      @done="change({ opacity: toRatio($event / 100) } as Partial<Paint>)" />
    <ul v-if="stops.length" class="stops">
      <li v-for="(stop, i) in stops" :key="i">
        <ColorPick
          :label="`Stop ${i + 1}`"
          :tint="stop.tint"
          @live="setStop(i, { tint: $event }, true)"
          @done="setStop(i, { tint: $event })" />
        <ShareField
          label="At"
          :value="(stop.at / RATIO_WHOLE) * 100"
          @live="setStop(i, { at: toRatio($event / 100) }, true)"
          @done="setStop(i, { at: toRatio($event / 100) })" />
        <ShareField
          label="Strength"
          :value="(stop.opacity / RATIO_WHOLE) * 100"
          @live="setStop(i, { opacity: toRatio($event / 100) }, true)"
          @done="setStop(i, { opacity: toRatio($event / 100) })" />
        <button v-if="stops.length > 2" class="tool" :aria-label="`Remove stop ${i + 1}`" @click="removeStop(i)"><X :size="14" /></button>
      </li>
      <li class="row">
        <button class="act" :disabled="stops.length >= 8" @click="addStop"><Plus :size="14" />Stop</button>
        <AngleField
          v-if="paint && (paint.kind === 'linear' || paint.kind === 'conic')"
          label="Direction"
          :value="paint.angle"
          @done="change({ angle: $event } as Partial<Paint>)" />
      </li>
    </ul>
    <template v-if="paint?.kind === 'pattern'">
      <ChoiceField label="Figure" :value="paint.motif" :choices="motifs" @done="change({ motif: $event } as Partial<Paint>)" />
      <ColorPick
        label="Ink"
        :tint="paint.ink"
        @live="change({ ink: $event } as Partial<Paint>, true)"
        @done="change({ ink: $event } as Partial<Paint>)" />
      <ColorPick
        label="Behind it"
        :tint="paint.ground"
        none-label="clear"
        @live="change({ ground: $event } as Partial<Paint>, true)"
        @done="change({ ground: $event } as Partial<Paint>)"
        @none="change({ ground: null } as Partial<Paint>)" />
      <div class="row">
        <MeasureField
          label="Distance of the figures"
          short="Every"
          :value="paint.size"
          :unit="format.unit"
          :ppi="format.ppi"
          :least="1"
          @change="change({ size: $event } as Partial<Paint>)" />
        <AngleField label="Turn of the pattern" :value="paint.angle" @done="change({ angle: $event } as Partial<Paint>)" />
      </div>
    </template>
    <template v-if="paint?.kind === 'picture'">
      <div class="shelf scroll" role="group" aria-label="Picture to fill with">
        <button
          v-for="card in shelf.pictures"
          :key="card.id"
          :aria-pressed="paint.picture === card.id"
          :aria-label="card.name"
          :title="card.name"
          @click="change({ picture: card.id } as Partial<Paint>)">
          <img :src="api.media(card.id, 160)" alt="" />
        </button>
      </div>
      <ShareField
        label="Scale"
        :min="100"
        :max="400"
        :value="(paint.zoom / RATIO_WHOLE) * 100"
        @live="change({ zoom: toRatio($event / 100) } as Partial<Paint>, true)"
        @done="change({ zoom: toRatio($event / 100) } as Partial<Paint>)" />
    </template>
  </div>
</template>

<style scoped>
.paint,
.stops,
.stops li {
  display: grid;
  gap: 6px;
}

.stops li {
  position: relative;
  padding-left: 8px;
  border-left: 2px solid var(--rule);
}

.stops li > .tool {
  position: absolute;
  right: -6px;
  top: -2px;
  background: var(--paper);
}

.stops li.row,
.row {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 8px;
  border: 0;
  padding: 0;
}

.shelf {
  display: grid;
  grid-template-columns: repeat(5, 1fr);
  gap: 4px;
  max-height: 92px;
}

.shelf button {
  aspect-ratio: 1;
}

.shelf img {
  width: 100%;
  height: 100%;
  object-fit: cover;
}

.shelf button[aria-pressed='true'] {
  outline: 2px solid var(--ink);
  outline-offset: -2px;
}
</style>
