<script setup lang="ts">
import {
  AlignVerticalJustifyCenter,
  AlignVerticalJustifyEnd,
  AlignVerticalJustifyStart,
  CaseUpper,
  List,
  ListOrdered,
  RemoveFormatting,
  Subscript,
  Superscript,
} from '@lucide/vue'
import { ElCheckbox, ElSlider } from 'element-plus'
import { computed } from 'vue'
import type { CurveKind, Forms, Hyphens, TextFit, VAlign } from '../generated/types'
import { RATIO_WHOLE, toRatio } from '../measures'
import type { Plain } from '../stores/bench'
import AngleField from '../parts/AngleField.vue'
import ChoiceField from '../parts/ChoiceField.vue'
import FoldGroup from '../parts/FoldGroup.vue'
import NumberField from '../parts/NumberField.vue'
import LockUpButton from './LockUpButton.vue'
import { useType } from './use-type'

/** Type in detail: spacing, lists, how words fit their box, how lines run, forms of letters. */
const props = defineProps<{ items: Plain[] }>()
const { first, type, part, own, now, set, styleLetters, setScript } = useType(() => props.items)

const valigns: { align: VAlign; label: string; icon: typeof List }[] = [
  { align: 'top', label: 'At the top of the box', icon: AlignVerticalJustifyStart },
  { align: 'middle', label: 'In the middle of the box', icon: AlignVerticalJustifyCenter },
  { align: 'bottom', label: 'At the bottom of the box', icon: AlignVerticalJustifyEnd },
]
const fits: { value: TextFit['kind']; name: string }[] = [
  { value: 'widen', name: 'Widens, then shrinks, then wraps' },
  { value: 'grow', name: 'Box grows with the lines' },
  { value: 'asTyped', name: 'Lines as typed' },
  { value: 'shrink', name: 'Shrinks to fit its box' },
  { value: 'fill', name: 'As large as fits its box' },
]
const languages: { value: Hyphens | 'none'; name: string }[] = [
  { value: 'none', name: 'Words stay whole' },
  { value: 'english', name: 'Divided as in English' },
  { value: 'german', name: 'Divided as in German' },
  { value: 'french', name: 'Divided as in French' },
  { value: 'spanish', name: 'Divided as in Spanish' },
  { value: 'italian', name: 'Divided as in Italian' },
  { value: 'portuguese', name: 'Divided as in Portuguese' },
  { value: 'dutch', name: 'Divided as in Dutch' },
  { value: 'polish', name: 'Divided as in Polish' },
  { value: 'swedish', name: 'Divided as in Swedish' },
  { value: 'finnish', name: 'Divided as in Finnish' },
  { value: 'hungarian', name: 'Divided as in Hungarian' },
  { value: 'turkish', name: 'Divided as in Turkish' },
  { value: 'ukrainian', name: 'Divided as in Ukrainian' },
]
const curves: { value: CurveKind; name: string }[] = [
  { value: 'none', name: 'A straight line' },
  { value: 'arc', name: 'A bow' },
  { value: 'circle', name: 'A circle' },
]
const formNames: { key: keyof Forms; name: string }[] = [
  { key: 'smallCaps', name: 'Small capitals' },
  { key: 'tabular', name: 'Figures of one width' },
  { key: 'oldFigures', name: 'Old-style figures' },
  { key: 'noLigatures', name: 'No joined letters' },
]

/** Letter spacing is told in thousandths of an em. */
const thousandths = computed(() => Math.round(((now.value?.tracking ?? 0) / RATIO_WHOLE) * 1_000))
const track = (value: number) => set({ tracking: toRatio(value / 1_000) })

const says = computed(() => {
  const t = type.value
  if (!t) return ''
  const forms = formNames.filter((form) => t.forms[form.key]).length
  return [
    t.caps ? 'capitals' : '',
    t.list !== 'none' ? 'list' : '',
    t.curve ? curves.find((entry) => entry.value === t.curve?.kind)!.name.toLowerCase() : '',
    t.lockUp ? 'one block' : '',
    t.fit.kind === 'shrink' ? 'shrinks' : t.fit.kind === 'fill' ? 'fills its box' : t.fit.kind === 'asTyped' ? 'as typed' : '',
    `${Math.round((t.leading / RATIO_WHOLE) * 100)} %`,
    forms ? 'letter forms' : '',
  ]
    .filter(Boolean)
    .slice(0, 3)
    .join(', ')
})
</script>

<template>
  <FoldGroup v-if="type && now" name="type" title="Type in detail" :says="says">
    <div class="row">
      <button class="tool" aria-label="Capitals, typed text kept" :aria-pressed="now.caps" @click="set({ caps: !now.caps })">
        <CaseUpper :size="17" />
      </button>
      <template v-if="part">
        <button class="tool" aria-label="Raised" :aria-pressed="own.script === 'superscript'" @click="setScript('superscript')">
          <Superscript :size="16" />
        </button>
        <button class="tool" aria-label="Lowered" :aria-pressed="own.script === 'subscript'" @click="setScript('subscript')">
          <Subscript :size="16" />
        </button>
        <button class="tool" aria-label="Like the rest again" @click="styleLetters({}, { clear: true })">
          <RemoveFormatting :size="16" />
        </button>
      </template>
      <template v-else>
        <button
          class="tool"
          aria-label="Bullet before each paragraph"
          :aria-pressed="type.list === 'bullet'"
          @click="set({ list: type.list === 'bullet' ? 'none' : 'bullet' })">
          <List :size="16" />
        </button>
        <button
          class="tool"
          aria-label="Number before each paragraph"
          :aria-pressed="type.list === 'number'"
          @click="set({ list: type.list === 'number' ? 'none' : 'number' })">
          <ListOrdered :size="16" />
        </button>
        <span class="gap" />
        <template v-if="!['grow', 'asTyped', 'widen'].includes(type.fit.kind) && !type.curve">
          <button
            v-for="entry in valigns"
            :key="entry.align"
            class="tool"
            :aria-label="entry.label"
            :aria-pressed="type.valign === entry.align"
            @click="set({ valign: entry.align })">
            <component :is="entry.icon" :size="16" />
          </button>
        </template>
      </template>
    </div>
    <div class="spaced">
      <span data-tip="Letter spacing in thousandths of the size">Letters</span>
      <ElSlider
        :model-value="thousandths"
        :min="-100"
        :max="400"
        :step="5"
        :show-tooltip="false"
        aria-label="Letter spacing"
        @input="track($event as number)" />
      <NumberField label="Letter spacing in thousandths of the size" :value="thousandths" :least="-500" :most="5000" whole @done="track" />
    </div>
    <div class="two">
      <label
        ><span>Leading</span
        ><NumberField
          label="Leading"
          :value="(type.leading / RATIO_WHOLE) * 100"
          :least="30"
          :most="500"
          unit="%"
          @done="set({ leading: toRatio($event / 100) })"
      /></label>
      <label v-if="!part"
        ><span data-tip="Space between paragraphs">Paragraphs</span
        ><NumberField
          label="Gap between paragraphs"
          :value="(type.paragraphGap / RATIO_WHOLE) * 100"
          :least="0"
          :most="1000"
          unit="%"
          @done="set({ paragraphGap: toRatio($event / 100) })"
      /></label>
    </div>
    <template v-if="!part">
      <ChoiceField label="Fit" :value="type.fit.kind" :choices="fits" @done="set({ fit: $event })" />
      <ChoiceField
        v-if="type.fit.kind !== 'asTyped' && !type.curve && !type.lockUp"
        label="Line ends"
        :value="type.hyphens ?? 'none'"
        :choices="languages"
        @done="set({ hyphens: $event === 'none' ? null : $event })" />
      <ChoiceField label="Runs along" :value="type.curve?.kind ?? 'none'" :choices="curves" @done="set({ curve: $event })" />
      <div v-if="type.curve" class="two">
        <AngleField
          v-if="type.curve.kind === 'arc'"
          label="How far the line bends"
          short="Bend"
          :most="330"
          :value="type.curve.bend"
          @done="set({ bend: $event })" />
        <template v-else>
          <AngleField label="Middle of the words from the top" short="At" :value="type.curve.at" @done="set({ at: $event })" />
          <button class="act" :aria-pressed="type.curve.inward" @click="set({ inward: !type.curve.inward })">Heads inward</button>
        </template>
      </div>
      <LockUpButton v-if="items.length === 1" :plain="first" />
      <div class="forms" role="group" aria-label="Letter forms">
        <ElCheckbox
          v-for="form in formNames"
          :key="form.key"
          :model-value="!!type.forms[form.key]"
          :label="form.name"
          @update:model-value="set({ forms: { ...type.forms, [form.key]: !!$event } })" />
      </div>
    </template>
  </FoldGroup>
</template>

<style scoped>
.row {
  display: flex;
  align-items: center;
  gap: 1px;
}

.gap {
  flex: 1;
}

.spaced {
  display: grid;
  grid-template-columns: 62px 1fr 62px;
  align-items: center;
  gap: 12px;
}

label:not(.el-checkbox) {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  align-items: center;
  gap: 6px;
}

label > span,
.spaced > span {
  font-size: var(--text-1);
  color: var(--ink-3);
}

.forms {
  display: grid;
}

.act[aria-pressed='true'] {
  background: var(--ink);
  color: var(--paper);
}

/* What a field says is above it where beside it would leave no room for figures. */
@media (max-width: 1100px) {
  .two label {
    grid-template-columns: minmax(0, 1fr);
    gap: 2px;
  }
}
</style>
