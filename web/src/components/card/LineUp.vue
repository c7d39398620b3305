<script setup lang="ts">
import {
  AlignCenterHorizontal, AlignCenterVertical, AlignEndHorizontal, AlignEndVertical, AlignHorizontalSpaceBetween, AlignStartHorizontal, AlignStartVertical, AlignVerticalSpaceBetween, LayoutGrid, MoveHorizontal, MoveVertical,
} from '@lucide/vue'
import { computed, ref } from 'vue'
import { ApiProblem, api } from '../../api/client'
import type { AlignEdge, AlignTo, Alike, Axis } from '../../generated/types'
import { useBench } from '../../stores/bench'
import { useNotices } from '../../stores/notices'

/** Lining up what is selected: edges and middles, even gaps, like sizes. */
const bench = useBench()
const notices = useNotices()

const items = computed(() => bench.selection)
const several = computed(() => items.value.length > 1)
const to = ref<'selection' | 'sheet' | 'safe' | 'margins' | 'last'>('selection')
const gap = ref('')
const hasMargins = computed(() => (bench.piece?.guides.margins ?? []).some((margin) => margin > 0))

const edges: { edge: AlignEdge; label: string; icon: typeof LayoutGrid }[] = [
  { edge: 'left', label: 'Left edges', icon: AlignStartVertical },
  { edge: 'centre', label: 'Middles, across', icon: AlignCenterVertical },
  { edge: 'right', label: 'Right edges', icon: AlignEndVertical },
  { edge: 'top', label: 'Top edges', icon: AlignStartHorizontal },
  { edge: 'middle', label: 'Middles, up and down', icon: AlignCenterHorizontal },
  { edge: 'bottom', label: 'Bottom edges', icon: AlignEndHorizontal },
]

const target = computed<AlignTo>(() => {
  if (!several.value) return { kind: to.value === 'safe' || to.value === 'margins' ? to.value : 'sheet' }
  return to.value === 'last' ? { kind: 'item', item: items.value.at(-1)! } : { kind: to.value }
})

const align = (edge: AlignEdge) => bench.act({ act: 'align', items: items.value, edge, to: target.value })

async function distribute(axis: Axis) {
  let exact: number | null = null
  const format = bench.piece?.format
  if (gap.value.trim() && format) {
    try {
      exact = await api.measure({ text: gap.value, unit: format.unit, ppi: format.ppi })
    } catch (error) {
      notices.say(error instanceof ApiProblem ? `${error.message} Nothing was moved.` : 'The gap is not a length. Nothing was moved.', { trouble: true })
      return
    }
  }
  await bench.act({ act: 'distribute', items: items.value, axis, gap: exact })
}

const alike = (which: Alike) => bench.act({ act: 'matchSize', items: items.value, key: items.value.at(-1)!, alike: which })
</script>

<template>
  <section class="line-up" aria-label="Line up">
    <div class="row">
      <button v-for="entry in edges" :key="entry.edge" class="tool" :aria-label="`Align: ${entry.label}`" :title="entry.label" @click="align(entry.edge)"><component :is="entry.icon" :size="16" /></button>
    </div>
    <label class="to"><span>Align to</span>
      <select v-model="to" class="field" aria-label="What to align to" @keydown.stop>
        <option v-if="several" value="selection">each other</option>
        <option v-if="several" value="last">the last one picked</option>
        <option v-if="!several" value="selection">the sheet</option>
        <option v-else value="sheet">the sheet</option>
        <option value="safe">the safe area</option>
        <option v-if="hasMargins" value="margins">the margins</option>
      </select>
    </label>
    <template v-if="several">
      <div class="row">
        <button class="tool" aria-label="Even gaps across" title="Even gaps across" @click="distribute('across')"><AlignHorizontalSpaceBetween :size="16" /></button>
        <button class="tool" aria-label="Even gaps down" title="Even gaps down" @click="distribute('down')"><AlignVerticalSpaceBetween :size="16" /></button>
        <label class="gap"><span>Gap</span><input v-model="gap" class="field" aria-label="Exact gap" placeholder="as it is" spellcheck="false" @keydown.stop /></label>
        <button class="tool" aria-label="Tidy up into rows and columns" title="Tidy up into rows and columns" @click="bench.act({ act: 'tidy', items })"><LayoutGrid :size="16" /></button>
      </div>
      <div class="row">
        <button class="act" title="As wide as the last one picked" @click="alike('width')"><MoveHorizontal :size="14" />Same width</button>
        <button class="act" title="As high as the last one picked" @click="alike('height')"><MoveVertical :size="14" />Same height</button>
      </div>
    </template>
  </section>
</template>

<style scoped>
.line-up {
  display: grid;
  gap: 6px;
}

.row {
  display: flex;
  align-items: center;
  gap: 2px;
}

.row .act {
  flex: 1;
  padding: 0 6px;
}

.row .act + .act {
  margin-left: 6px;
}

label {
  display: grid;
  grid-template-columns: auto 1fr;
  align-items: center;
  gap: 8px;
  flex: 1;
}

label span {
  font-size: var(--text-1);
  color: var(--ink-3);
}

.gap {
  margin: 0 4px 0 8px;
}
</style>
