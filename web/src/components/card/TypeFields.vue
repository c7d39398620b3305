<script setup lang="ts">
import { AlignCenter, AlignJustify, AlignLeft, AlignRight, AlignVerticalJustifyCenter, AlignVerticalJustifyEnd, AlignVerticalJustifyStart, CaseUpper, Italic, Underline } from '@lucide/vue'
import { computed } from 'vue'
import type { Align, Look, TypeLook, VAlign } from '../../generated/types'
import { RATIO_WHOLE, toFine, toRatio, typeUnit } from '../../measures'
import { useBench, type Plain } from '../../stores/bench'
import { useShelf } from '../../stores/shelf'
import DraftField from '../parts/DraftField.vue'
import FamilyPick from '../parts/FamilyPick.vue'
import MeasureField from '../parts/MeasureField.vue'

/** How the words are set. */
const props = defineProps<{ items: Plain[]; setLook: (change: (look: Look) => Look, continuing?: boolean) => void }>()
const bench = useBench()
const shelf = useShelf()

const first = computed(() => props.items[0]!)
const type = computed(() => first.value.look.type)
const family = computed(() => shelf.families.find((entry) => entry.family === type.value?.family))
const weights = computed(() => [...new Set((family.value?.faces ?? []).map((face) => face.weight))].sort((a, b) => a - b))
const hasItalic = computed(() => family.value?.faces.some((face) => face.italic) ?? false)
const words = computed(() => (first.value.content.kind === 'words' ? first.value.content.text.map((run) => run.text).join('').replace(/\s+/g, ' ').trim().slice(0, 40) : ''))
const size = computed(() => toFine(bench.drawn.get(first.value.item.id)?.typeSize ?? 0))
const format = computed(() => bench.piece!.format)

const weightNames: Record<number, string> = { 300: 'Light', 400: 'Regular', 500: 'Medium', 600: 'Semibold', 700: 'Bold', 800: 'Extra bold', 900: 'Black' }
const aligns: { align: Align; label: string; icon: typeof AlignLeft }[] = [
  { align: 'start', label: 'At the left', icon: AlignLeft }, { align: 'centre', label: 'In the middle', icon: AlignCenter }, { align: 'end', label: 'At the right', icon: AlignRight }, { align: 'justified', label: 'Both edges even', icon: AlignJustify },
]
const valigns: { align: VAlign; label: string; icon: typeof AlignLeft }[] = [
  { align: 'top', label: 'At the top of the box', icon: AlignVerticalJustifyStart }, { align: 'middle', label: 'In the middle of the box', icon: AlignVerticalJustifyCenter }, { align: 'bottom', label: 'At the bottom of the box', icon: AlignVerticalJustifyEnd },
]

function set(change: Partial<TypeLook>) {
  props.setLook((look) => (look.type ? { ...look, type: { ...look.type, ...change } } : look))
}

function setFamily(name: string) {
  const faces = shelf.families.find((entry) => entry.family === name)?.faces ?? []
  const nearest = (weight: number) => faces.map((face) => face.weight).sort((a, b) => Math.abs(a - weight) - Math.abs(b - weight))[0] ?? 400
  props.setLook((look) => (look.type ? { ...look, type: { ...look.type, family: name, weight: nearest(look.type.weight), italic: look.type.italic && faces.some((face) => face.italic) } } : look))
}

async function setSize(fine: number) {
  for (const p of props.items) await bench.act({ act: 'typeSize', item: p.item.id, size: fine })
}

function percent(typed: string, apply: (share: number) => void, least: number, most: number) {
  const value = Number(typed.replace('%', '').replace(',', '.').trim())
  if (Number.isFinite(value) && typed.replace('%', '').trim() && value >= least && value <= most) apply(toRatio(value / 100))
}
const shown = (ratio: number) => `${Math.round((ratio / RATIO_WHOLE) * 1000) / 10} %`
</script>

<template>
  <section v-if="type" class="type">
    <h3>Type</h3>
    <FamilyPick :family="type.family" :words="words" @pick="setFamily" />
    <div class="two">
      <select class="field" :value="type.weight" aria-label="Weight" @change="set({ weight: Number(($event.target as HTMLSelectElement).value) })" @keydown.stop>
        <option v-for="weight in weights" :key="weight" :value="weight">{{ weightNames[weight] ?? weight }}</option>
        <option v-if="!weights.includes(type.weight)" :value="type.weight">{{ weightNames[type.weight] ?? type.weight }}</option>
      </select>
      <MeasureField label="Size of type" short="Size" :value="size" :unit="typeUnit(format)" :ppi="format.ppi" :least="1" @change="setSize" />
    </div>
    <div class="row">
      <button v-for="entry in aligns" :key="entry.align" class="tool" :aria-label="entry.label" :title="entry.label" :aria-pressed="type.align === entry.align" @click="set({ align: entry.align })"><component :is="entry.icon" :size="16" /></button>
      <span class="gap" />
      <button class="tool" aria-label="Italic" title="Italic" :disabled="!hasItalic" :aria-pressed="type.italic" @click="set({ italic: !type.italic })"><Italic :size="16" /></button>
      <button class="tool" aria-label="Underline" title="Underline" :aria-pressed="type.underline" @click="set({ underline: !type.underline })"><Underline :size="16" /></button>
      <button class="tool" aria-label="Capitals, typed text kept" title="Capitals, typed text kept" :aria-pressed="type.caps" @click="set({ caps: !type.caps })"><CaseUpper :size="17" /></button>
    </div>
    <div v-if="type.fit.kind !== 'grow'" class="row">
      <button v-for="entry in valigns" :key="entry.align" class="tool" :aria-label="entry.label" :title="entry.label" :aria-pressed="type.valign === entry.align" @click="set({ valign: entry.align })"><component :is="entry.icon" :size="16" /></button>
    </div>
    <div class="two">
      <label><span>Leading</span><DraftField :value="shown(type.leading)" aria-label="Leading" @done="percent($event, (v) => set({ leading: v }), 30, 500)" /></label>
      <label><span>Letters</span><DraftField :value="shown(type.tracking)" aria-label="Letter spacing" @done="percent($event, (v) => set({ tracking: v }), -50, 500)" /></label>
    </div>
  </section>
</template>

<style scoped>
section {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
}

.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 8px;
}

.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px;
}

.gap {
  flex: 1;
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

select.field {
  padding: 0 4px;
}
</style>
