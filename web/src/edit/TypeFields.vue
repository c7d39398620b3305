<script setup lang="ts">
import { AlignCenter, AlignJustify, AlignLeft, AlignRight, Italic, Strikethrough, Underline } from '@lucide/vue'
import { computed } from 'vue'
import type { Align } from '../generated/types'
import { typeUnit } from '../measures'
import { useBench, type Plain } from '../stores/bench'
import { useShelf } from '../stores/shelf'
import ChoiceField from '../parts/ChoiceField.vue'
import MeasureField from '../parts/MeasureField.vue'
import FamilyChip from './FamilyChip.vue'
import { useType } from './use-type'

/** What people change about type nearly every time: family, weight, size, alignment. */
const props = defineProps<{ items: Plain[] }>()
const bench = useBench()
const shelf = useShelf()
const { type, size, now, set, setSize } = useType(() => props.items)

const family = computed(() => shelf.families.find((entry) => entry.family === now.value?.family))
const hasItalic = computed(() => family.value?.faces.some((face) => face.italic) ?? false)
const format = computed(() => bench.piece!.format)

const weightNames: Record<number, string> = {
  300: 'Light',
  400: 'Regular',
  500: 'Medium',
  600: 'Semibold',
  700: 'Bold',
  800: 'Extra bold',
  900: 'Black',
}
const weights = computed(() => {
  const all = new Set([...(family.value?.faces ?? []).map((face) => face.weight), ...(now.value ? [now.value.weight] : [])])
  return [...all].toSorted((a, b) => a - b).map((value) => ({ value, name: weightNames[value] ?? String(value) }))
})
const aligns: { align: Align; label: string; icon: typeof AlignLeft }[] = [
  { align: 'start', label: 'At the left', icon: AlignLeft },
  { align: 'centre', label: 'In the middle', icon: AlignCenter },
  { align: 'end', label: 'At the right', icon: AlignRight },
  { align: 'justified', label: 'Both edges even', icon: AlignJustify },
]
</script>

<template>
  <section v-if="type && now" class="type" aria-label="Type">
    <FamilyChip :family="now.family" />
    <div class="two">
      <ChoiceField label="Weight" hide-label :value="now.weight" :choices="weights" @done="set({ weight: $event })" />
      <MeasureField
        label="Size of type"
        short="Size"
        :value="size"
        :unit="typeUnit(format)"
        :ppi="format.ppi"
        :least="1"
        @change="setSize" />
    </div>
    <div class="row">
      <button
        v-for="entry in aligns"
        :key="entry.align"
        class="tool"
        :aria-label="entry.label"
        :aria-pressed="type.align === entry.align"
        @click="set({ align: entry.align })">
        <component :is="entry.icon" :size="16" />
      </button>
      <span class="gap" />
      <button class="tool" aria-label="Italic" :disabled="!hasItalic" :aria-pressed="now.italic" @click="set({ italic: !now.italic })">
        <Italic :size="16" />
      </button>
      <button class="tool" aria-label="Underline" :aria-pressed="now.underline" @click="set({ underline: !now.underline })">
        <Underline :size="16" />
      </button>
      <button class="tool" aria-label="Strike through" :aria-pressed="now.strike" @click="set({ strike: !now.strike })">
        <Strikethrough :size="16" />
      </button>
    </div>
  </section>
</template>

<style scoped>
section {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
}

.row {
  display: flex;
  align-items: center;
  gap: 1px;
}

.row .tool {
  flex: 0 1 30px;
  min-width: 24px;
}

.gap {
  flex: 1;
}
</style>
