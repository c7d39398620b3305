<script setup lang="ts">
import { BookmarkPlus } from '@lucide/vue'
import { ElCheckbox, ElMessageBox } from 'element-plus'
import { computed } from 'vue'
import { api } from '../api/client'
import type { KeptSetup, Marks, PaperTurn, Piece, SheetSetup, SheetStart } from '../generated/types'
import ActMenu from '../parts/ActMenu.vue'
import ChoiceField from '../parts/ChoiceField.vue'
import DraftField from '../parts/DraftField.vue'
import FoldGroup from '../parts/FoldGroup.vue'
import MeasureField from '../parts/MeasureField.vue'
import NumberField from '../parts/NumberField.vue'
import { showLength } from '../measures'
import { useNotices } from '../stores/notices'

/** How pieces are laid on sheets. */
const props = defineProps<{ start: SheetStart; piece: Piece | null }>()
const emit = defineEmits<{ kept: [kept: KeptSetup[]] }>()
const setup = defineModel<SheetSetup>({ required: true })
const notices = useNotices()

const unit = computed(() => (props.piece?.format.unit === 'in' ? 'in' : 'mm'))
const set = (change: Partial<SheetSetup>) => {
  setup.value = { ...setup.value, ...change }
}

const papers = computed(() => [
  ...props.start.papers.map((paper) => ({ value: paper.id, name: paper.name })),
  { value: 'own', name: 'Another size' },
])
const named = computed(() => props.start.papers.some((paper) => paper.id === setup.value.paper))
const ways = [
  { value: 'either', name: 'Whichever holds more' },
  { value: 'upright', name: 'Upright' },
  { value: 'lying', name: 'Lying' },
]
const way = computed(() =>
  setup.value.lying === null || setup.value.lying === undefined ? 'either' : setup.value.lying ? 'lying' : 'upright',
)

const kinds = computed(() => props.start.kinds.map((offer) => ({ value: offer.kind.kind, name: offer.name })))
function kind(value: string) {
  const offer = props.start.kinds.find((other) => other.kind.kind === value)
  if (offer) set({ kind: offer.kind })
}

const backs = [
  { value: 'none', name: 'Fronts alone' },
  { value: 'longEdge', name: 'Turned on the long edge' },
  { value: 'shortEdge', name: 'Turned on the short edge' },
]
const off = () => setup.value.backs?.off ?? { x: 0, y: 0 }
function turn(value: string) {
  set({
    backs:
      value === 'none'
        ? null
        : {
            turn: value as PaperTurn,
            by_hand: setup.value.backs?.by_hand ?? false,
            stands: setup.value.backs?.stands ?? 'headToHead',
            off: off(),
          },
  })
}
const marks = [
  { value: 'crop', name: 'Crop marks' },
  { value: 'lines', name: 'Lines around them' },
  { value: 'none', name: 'No marks' },
]

const sides = (value: number) => set({ margins: { ...setup.value.margins, left: value, right: value } })
const ends = (value: number) => set({ margins: { ...setup.value.margins, top: value, bottom: value } })
const measures = computed(() => ({ unit: unit.value, ppi: 300 }) as const)
const short = (value: number) => `${showLength(value, unit.value, 300)} ${unit.value}`
const stock = computed(() => (setup.value.kind.kind === 'labels' ? setup.value.kind.stock : null))
function label(change: Partial<NonNullable<typeof stock.value>>) {
  if (stock.value) set({ kind: { kind: 'labels', stock: { ...stock.value, ...change } } })
}

async function keep() {
  const asked = await ElMessageBox.prompt('Under this name the layout can be used again for any piece.', 'Keep this layout', {
    confirmButtonText: 'Keep',
    cancelButtonText: 'Back',
    inputPlaceholder: 'Cards on my printer',
  }).catch(() => null)
  const name = asked?.value?.trim()
  if (!name) return
  try {
    await api.keepSheets(name, setup.value)
    emit('kept', [...props.start.kept.filter((own) => own.name !== name), { name, setup: setup.value }])
    notices.say(`“${name}” is kept.`)
  } catch (error) {
    notices.report(error)
  }
}
async function use(name: string) {
  if (name === 'keep') return keep()
  const own = props.start.kept.find((other) => other.name === name)
  if (own) setup.value = own.setup
}
const entries = computed(() => [
  { name: 'Keep this layout…', value: 'keep' },
  ...props.start.kept.map((own, at) => ({ name: own.name, value: own.name, apart: at === 0 })),
])
</script>

<template>
  <div class="fields">
    <div class="line">
      <h2>How</h2>
      <ActMenu label="Layouts kept" :entries="entries" @done="use"><BookmarkPlus :size="15" />Layouts</ActMenu>
    </div>
    <ChoiceField label="Laid" :value="setup.kind.kind" :choices="kinds" data-field="kind" @done="kind" />
    <ChoiceField
      label="Paper"
      :value="named ? setup.paper : 'own'"
      :choices="papers"
      data-field="paper"
      @done="set({ paper: $event === 'own' ? '320 x 450 mm' : $event })" />
    <label v-if="!named" class="own"
      ><span>Size</span><DraftField :value="setup.paper" aria-label="Size of the paper" @done="set({ paper: $event })"
    /></label>
    <ChoiceField
      label="It lies"
      :value="way"
      :choices="ways"
      data-field="lies"
      @done="set({ lying: $event === 'either' ? null : $event === 'lying' })" />
    <template v-if="setup.kind.kind !== 'poster' && setup.kind.kind !== 'quarters'">
      <ChoiceField label="Backs" :value="setup.backs?.turn ?? 'none'" :choices="backs" data-field="backs" @done="turn" />
      <ElCheckbox
        v-if="setup.backs"
        :model-value="setup.backs.by_hand"
        label="I turn the paper and put it in again"
        @update:model-value="set({ backs: { ...setup.backs, by_hand: Boolean($event) } })" />
    </template>
    <ChoiceField label="Cuts" :value="setup.marks" :choices="marks" data-field="marks" @done="set({ marks: $event as Marks })" />
    <ElCheckbox
      v-if="setup.kind.kind === 'fill' && (piece?.format.bleed ?? 0) > 0"
      :model-value="setup.bleed"
      label="With the bleed"
      data-field="bleed"
      @update:model-value="set({ bleed: Boolean($event) })" />
    <div v-if="stock" class="two">
      <label class="own"
        ><span>Columns</span
        ><NumberField label="Columns" :value="stock.columns" :least="1" :most="100" whole @done="label({ columns: $event })"
      /></label>
      <label class="own"
        ><span>Rows</span><NumberField label="Rows" :value="stock.rows" :least="1" :most="100" whole @done="label({ rows: $event })"
      /></label>
      <MeasureField
        label="Width of a label"
        short="Width"
        :value="stock.label.w"
        v-bind="measures"
        :least="1"
        @change="label({ label: { ...stock.label, w: $event } })" />
      <MeasureField
        label="Height of a label"
        short="Height"
        :value="stock.label.h"
        v-bind="measures"
        :least="1"
        @change="label({ label: { ...stock.label, h: $event } })" />
      <MeasureField label="From the left" short="Left" :value="stock.left" v-bind="measures" :least="0" @change="label({ left: $event })" />
      <MeasureField label="From the top" short="Top" :value="stock.top" v-bind="measures" :least="0" @change="label({ top: $event })" />
      <MeasureField
        label="From label to label across"
        short="Across"
        :value="stock.across"
        v-bind="measures"
        :least="1"
        @change="label({ across: $event })" />
      <MeasureField
        label="From label to label down"
        short="Down"
        :value="stock.down"
        v-bind="measures"
        :least="1"
        @change="label({ down: $event })" />
    </div>
    <MeasureField
      v-if="setup.kind.kind === 'poster'"
      label="Overlap of sheets"
      short="Overlap"
      :value="setup.kind.overlap"
      v-bind="measures"
      :least="0"
      @change="set({ kind: { kind: 'poster', overlap: $event } })" />
    <MeasureField
      v-if="setup.kind.kind === 'booklet'"
      label="Thickness of the paper"
      short="Thickness"
      :value="setup.kind.thickness"
      v-bind="measures"
      :least="0"
      @change="set({ kind: { kind: 'booklet', thickness: $event } })" />
    <FoldGroup name="sheet-margins" title="Margins and gaps" :says="`${short(setup.margins.left)}, gap ${short(setup.gap)}`">
      <div class="two">
        <MeasureField label="Margin at the sides" short="Sides" :value="setup.margins.left" v-bind="measures" :least="0" @change="sides" />
        <MeasureField
          label="Margin at top and bottom"
          short="Ends"
          :value="setup.margins.top"
          v-bind="measures"
          :least="0"
          @change="ends" />
        <MeasureField
          label="Gap between pieces"
          short="Gap"
          :value="setup.gap"
          v-bind="measures"
          :least="0"
          @change="set({ gap: $event })" />
      </div>
      <ElCheckbox :model-value="setup.middle" label="In the middle of the paper" @update:model-value="set({ middle: Boolean($event) })" />
      <ElCheckbox
        :model-value="setup.turning === 'upright'"
        label="Never turn a piece"
        @update:model-value="set({ turning: $event ? 'upright' : 'either' })" />
    </FoldGroup>
    <FoldGroup name="sheet-more" title="Printer and paper" :says="setup.scale !== 1000 ? `${setup.scale / 10} %` : ''">
      <label class="own"
        ><span>Printed at</span
        ><NumberField
          label="Size at which pieces are printed"
          :value="setup.scale / 10"
          :least="10"
          :most="400"
          unit="%"
          @done="set({ scale: Math.round($event * 10) })"
      /></label>
      <label class="own"
        ><span>A sheet costs</span
        ><NumberField
          label="What a sheet costs"
          :value="setup.price / 100"
          :least="0"
          :most="1000"
          :digits="2"
          @done="set({ price: Math.round($event * 100) })"
      /></label>
      <ElCheckbox
        :model-value="setup.registration"
        label="Registration marks"
        @update:model-value="set({ registration: Boolean($event) })" />
      <ElCheckbox
        :model-value="setup.process"
        label="Colours in process inks (CMYK)"
        @update:model-value="set({ process: Boolean($event) })" />
      <ElCheckbox
        :model-value="setup.mirrored"
        label="Mirrored, for transfers that are ironed on"
        @update:model-value="set({ mirrored: Boolean($event) })" />
      <template v-if="setup.backs">
        <p class="quiet">What the test sheet shows backs to be off by:</p>
        <div class="two">
          <MeasureField
            label="Backs are off to the right by"
            short="Right"
            :value="setup.backs.off.x"
            v-bind="measures"
            @change="set({ backs: { ...setup.backs!, off: { ...setup.backs!.off, x: $event } } })" />
          <MeasureField
            label="Backs are off downward by"
            short="Down"
            :value="setup.backs.off.y"
            v-bind="measures"
            @change="set({ backs: { ...setup.backs!, off: { ...setup.backs!.off, y: $event } } })" />
        </div>
      </template>
    </FoldGroup>
  </div>
</template>

<style scoped>
.fields {
  display: grid;
  gap: 8px;
}

.line {
  display: flex;
  align-items: center;
  justify-content: space-between;
}

.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 6px 12px;
}

.own {
  display: grid;
  grid-template-columns: 74px minmax(0, 1fr);
  align-items: center;
  gap: 8px;
  font-size: var(--text-1);
  color: var(--ink-3);
}

.fields :deep(.el-checkbox) {
  height: auto;
  margin: 0;
  white-space: normal;
}
</style>
