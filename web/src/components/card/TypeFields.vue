<script setup lang="ts">
import { AlignCenter, AlignJustify, AlignLeft, AlignRight, AlignVerticalJustifyCenter, AlignVerticalJustifyEnd, AlignVerticalJustifyStart, CaseUpper, Italic, List, ListOrdered, RemoveFormatting, Strikethrough, Subscript, Superscript, Underline } from '@lucide/vue'
import { computed } from 'vue'
import type { Align, CurveKind, Forms, Hyphens, RunStyle, Script, TextFit, TypeChange, TypeLook, VAlign } from '../../generated/types'
import { RATIO_WHOLE, toFine, toRatio, typeUnit } from '../../measures'
import { useBench, type Plain } from '../../stores/bench'
import { useShelf } from '../../stores/shelf'
import AngleField from '../parts/AngleField.vue'
import ChoiceField from '../parts/ChoiceField.vue'
import ColorPick from '../parts/ColorPick.vue'
import FamilyPick from '../parts/FamilyPick.vue'
import MeasureField from '../parts/MeasureField.vue'
import NumberField from '../parts/NumberField.vue'
import LockUpPick from './LockUpPick.vue'

/** How the words are set. */
const props = defineProps<{ items: Plain[] }>()
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

/** Letters selected while typing: changes of style go to them alone. */
const part = computed(() => {
  const [from, to] = bench.range
  return bench.typing && bench.typing === first.value.item.id && from !== to ? { from, to } : null
})
const own = computed<RunStyle>(() => (part.value ? bench.styleAt(first.value, part.value.from) : {}))
/** What the letters look like that a change would go to. */
const now = computed(() => (type.value ? { ...type.value, ...(part.value ? Object.fromEntries(Object.entries(own.value).filter(([key]) => key !== 'size' && key !== 'script')) : {}) } as TypeLook : null))

function styleLetters(set: RunStyle, more: { clear?: boolean; level?: boolean } = {}, gesture?: string) {
  if (part.value) void bench.act({ act: 'styleLetters', item: first.value.item.id, ...part.value, change: { set, clear: false, level: false, ...more } }, gesture)
}
/** A colour chosen by a hand that is still moving is one step. */
let colouring = ''
const liveTint = (tint: string) => styleLetters({ tint }, {}, (colouring ||= `letters-${crypto.randomUUID()}`))
function doneTint(tint: string) {
  styleLetters({ tint }, {}, colouring || undefined)
  colouring = ''
}

const ranged = new Set(['family', 'weight', 'italic', 'underline', 'strike', 'tracking', 'caps'])

const ids = () => props.items.map((p) => p.item.id)

function set(change: TypeChange) {
  if (part.value && Object.keys(change).every((key) => ranged.has(key))) return styleLetters(change as RunStyle)
  void bench.act({ act: 'changeType', items: ids(), change })
}

async function setSize(fine: number) {
  if (part.value) return styleLetters({ size: toRatio(fine / size.value) })
  // Several are set in one step.
  const gesture = `size-${crypto.randomUUID()}`
  for (const p of props.items) await bench.act({ act: 'typeSize', item: p.item.id, size: fine }, gesture, false)
}

const fits: { value: TextFit['kind']; name: string }[] = [
  { value: 'grow', name: 'Box grows with the lines' }, { value: 'asTyped', name: 'Lines as typed' }, { value: 'shrink', name: 'Shrinks to fit its box' }, { value: 'fill', name: 'As large as fits its box' },
]
const languages: { value: Hyphens | 'none'; name: string }[] = [
  { value: 'none', name: 'Words stay whole' }, { value: 'english', name: 'Divided as in English' }, { value: 'german', name: 'Divided as in German' }, { value: 'french', name: 'Divided as in French' }, { value: 'spanish', name: 'Divided as in Spanish' },
  { value: 'italian', name: 'Divided as in Italian' }, { value: 'portuguese', name: 'Divided as in Portuguese' }, { value: 'dutch', name: 'Divided as in Dutch' }, { value: 'polish', name: 'Divided as in Polish' }, { value: 'swedish', name: 'Divided as in Swedish' },
  { value: 'finnish', name: 'Divided as in Finnish' }, { value: 'hungarian', name: 'Divided as in Hungarian' }, { value: 'turkish', name: 'Divided as in Turkish' }, { value: 'ukrainian', name: 'Divided as in Ukrainian' },
]
const curves: { value: CurveKind; name: string }[] = [{ value: 'none', name: 'Straight' }, { value: 'arc', name: 'Bent' }, { value: 'circle', name: 'Round a circle' }]
const setForm = (change: Partial<Forms>) => type.value && set({ forms: { ...type.value.forms, ...change } })
const formNames: { key: keyof Forms; name: string }[] = [{ key: 'smallCaps', name: 'Small capitals' }, { key: 'tabular', name: 'Figures of one width' }, { key: 'oldFigures', name: 'Old-style figures' }, { key: 'noLigatures', name: 'Letters apart' }]
const setScript = (script: Script) => (own.value.script === script ? styleLetters({}, { level: true }) : styleLetters({ script }))

</script>

<template>
  <section v-if="type" class="type">
    <h3>Type</h3>
    <p v-if="part" class="quiet part">For the letters you have selected.</p>
    <FamilyPick :family="now!.family" :words="words" @pick="set({ family: $event })" />
    <div class="two">
      <select class="field" :value="now!.weight" aria-label="Weight" @change="set({ weight: Number(($event.target as HTMLSelectElement).value) })" @keydown.stop>
        <option v-for="weight in weights" :key="weight" :value="weight">{{ weightNames[weight] ?? weight }}</option>
        <option v-if="!weights.includes(type.weight)" :value="type.weight">{{ weightNames[type.weight] ?? type.weight }}</option>
      </select>
      <MeasureField label="Size of type" short="Size" :value="size" :unit="typeUnit(format)" :ppi="format.ppi" :least="1" @change="setSize" />
    </div>
    <div class="row">
      <button v-for="entry in aligns" :key="entry.align" class="tool" :aria-label="entry.label" :title="entry.label" :aria-pressed="type.align === entry.align" @click="set({ align: entry.align })"><component :is="entry.icon" :size="16" /></button>
      <span class="gap" />
      <button class="tool" aria-label="Italic" title="Italic" :disabled="!hasItalic" :aria-pressed="now!.italic" @click="set({ italic: !now!.italic })"><Italic :size="16" /></button>
      <button class="tool" aria-label="Underline" title="Underline" :aria-pressed="now!.underline" @click="set({ underline: !now!.underline })"><Underline :size="16" /></button>
      <button class="tool" aria-label="Strike through" title="Strike through" :aria-pressed="now!.strike" @click="set({ strike: !now!.strike })"><Strikethrough :size="16" /></button>
    </div>
    <div v-if="part" class="row">
      <button class="tool" aria-label="Capitals, typed text kept" title="Capitals, typed text kept" :aria-pressed="now!.caps" @click="set({ caps: !now!.caps })"><CaseUpper :size="17" /></button>
      <button class="tool" aria-label="Raised" title="Raised" :aria-pressed="own.script === 'superscript'" @click="setScript('superscript')"><Superscript :size="16" /></button>
      <button class="tool" aria-label="Lowered" title="Lowered" :aria-pressed="own.script === 'subscript'" @click="setScript('subscript')"><Subscript :size="16" /></button>
      <button class="tool" aria-label="Like the rest again" title="Like the rest again" @click="styleLetters({}, { clear: true })"><RemoveFormatting :size="16" /></button>
    </div>
    <ColorPick v-if="part" label="Letters" :tint="own.tint ?? (first.look.fill?.kind === 'flat' ? first.look.fill.tint : null)" @live="liveTint" @done="doneTint" />
    <div v-if="!part" class="row">
      <button class="tool" aria-label="Capitals, typed text kept" title="Capitals, typed text kept" :aria-pressed="now!.caps" @click="set({ caps: !now!.caps })"><CaseUpper :size="17" /></button>
      <button class="tool" aria-label="Bullet before each paragraph" title="Bullet before each paragraph" :aria-pressed="type.list === 'bullet'" @click="set({ list: type.list === 'bullet' ? 'none' : 'bullet' })"><List :size="16" /></button>
      <button class="tool" aria-label="Number before each paragraph" title="Number before each paragraph" :aria-pressed="type.list === 'number'" @click="set({ list: type.list === 'number' ? 'none' : 'number' })"><ListOrdered :size="16" /></button>
      <span class="gap" />
      <template v-if="!['grow', 'asTyped'].includes(type.fit.kind) && !type.curve">
      <button v-for="entry in valigns" :key="entry.align" class="tool" :aria-label="entry.label" :title="entry.label" :aria-pressed="type.valign === entry.align" @click="set({ valign: entry.align })"><component :is="entry.icon" :size="16" /></button>
      </template>
    </div>
    <div class="two">
      <label><span>Leading</span><NumberField label="Leading" :value="(type.leading / RATIO_WHOLE) * 100" :least="30" :most="500" unit="%" @done="set({ leading: toRatio($event / 100) })" /></label>
      <label><span>Letters</span><NumberField label="Letter spacing" :value="(now!.tracking / RATIO_WHOLE) * 100" :least="-50" :most="500" unit="%" @done="set({ tracking: toRatio($event / 100) })" /></label>
      <label v-if="!part"><span>Between</span><NumberField label="Gap between paragraphs" :value="(type.paragraphGap / RATIO_WHOLE) * 100" :least="0" :most="1000" unit="%" @done="set({ paragraphGap: toRatio($event / 100) })" /></label>
    </div>
    <template v-if="!part">
      <ChoiceField label="Fit" :value="type.fit.kind" :choices="fits" @done="set({ fit: $event })" />
      <ChoiceField v-if="type.fit.kind !== 'asTyped' && !type.curve && !type.lockUp" label="Line ends" :value="type.hyphens ?? 'none'" :choices="languages" @done="set({ hyphens: $event === 'none' ? null : $event })" />
      <ChoiceField label="Runs" :value="type.curve?.kind ?? 'none'" :choices="curves" @done="set({ curve: $event })" />
      <div v-if="type.curve" class="two">
        <AngleField v-if="type.curve.kind === 'arc'" label="How far the line bends" short="Bend" :most="330" :value="type.curve.bend" @done="set({ bend: $event })" />
        <template v-else>
          <AngleField label="Middle of the words from the top" short="At" :value="type.curve.at" @done="set({ at: $event })" />
          <button class="act" :aria-pressed="type.curve.inward" @click="set({ inward: !type.curve.inward })">Heads inward</button>
        </template>
      </div>
      <LockUpPick v-if="items.length === 1 && words" :plain="first" />
      <details>
        <summary>Letter forms</summary>
        <button v-for="form in formNames" :key="form.key" class="act" :aria-pressed="type.forms[form.key]" @click="setForm({ [form.key]: !type.forms[form.key] })">{{ form.name }}</button>
      </details>
    </template>
  </section>
</template>

<style scoped>
details {
  font-size: var(--text-1);
}

summary {
  color: var(--ink-3);
  cursor: pointer;
}

details .act {
  margin: 6px 6px 0 0;
  padding: 0 8px;
  height: 26px;
}

.act[aria-pressed='true'] {
  background: var(--ink);
  color: var(--paper);
}

section {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
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
