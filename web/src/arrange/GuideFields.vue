<script setup lang="ts">
import { X } from '@lucide/vue'
import { computed } from 'vue'
import type { GuideChange } from '../generated/types'
import { useBench } from '../stores/bench'
import FoldGroup from '../parts/FoldGroup.vue'
import NumberField from '../parts/NumberField.vue'
import MeasureField from '../parts/MeasureField.vue'

/** Margins, columns, rows, grid and single lines of this piece, by number. */
const bench = useBench()
const piece = computed(() => bench.piece!)
const guides = computed(() => piece.value.guides)
const format = computed(() => piece.value.format)
const says = computed(() => {
  const { margins, columns, rows, grid, lines } = guides.value
  return [
    margins.some((margin) => margin > 0) ? 'margins' : '',
    columns > 1 ? `${columns} columns` : '',
    rows > 1 ? `${rows} rows` : '',
    grid ? 'grid' : '',
    lines.length ? `${lines.length} lines` : '',
  ]
    .filter(Boolean)
    .join(', ')
})
const sides = ['Left', 'Top', 'Right', 'Bottom']

const set = (change: GuideChange) => bench.act({ act: 'changeGuides', piece: piece.value.id, change })
const everywhere = () => bench.act({ act: 'spreadGuides', piece: piece.value.id })
const line = (index: number, at: number | null) => bench.act({ act: 'moveGuide', piece: piece.value.id, index, at })
const addLine = (upright: boolean) => bench.act({ act: 'addGuide', piece: piece.value.id, upright })
</script>

<template>
  <FoldGroup name="guides" title="Guides" :says="says">
    <div class="two">
      <MeasureField
        v-for="(side, i) in sides"
        :key="side"
        :label="`Margin: ${side}`"
        :short="side"
        :value="guides.margins[i] ?? 0"
        :unit="format.unit"
        :ppi="format.ppi"
        :whole="i % 2 ? format.size.h : format.size.w"
        :least="0"
        @change="set({ margin: [i, $event] })" />
      <label
        ><span>Columns</span
        ><NumberField label="Columns" :value="guides.columns" :least="0" :most="48" whole @done="set({ columns: $event })"
      /></label>
      <MeasureField
        label="Gutter between columns"
        short="Gutter"
        :value="guides.columnGutter"
        :unit="format.unit"
        :ppi="format.ppi"
        :least="0"
        @change="set({ columnGutter: $event })" />
      <label
        ><span>Rows</span><NumberField label="Rows" :value="guides.rows" :least="0" :most="48" whole @done="set({ rows: $event })"
      /></label>
      <MeasureField
        label="Gutter between rows"
        short="Gutter"
        :value="guides.rowGutter"
        :unit="format.unit"
        :ppi="format.ppi"
        :least="0"
        @change="set({ rowGutter: $event })" />
      <MeasureField
        label="Squares of the grid; 0 for none"
        short="Grid"
        :value="guides.grid ?? 0"
        :unit="format.unit"
        :ppi="format.ppi"
        :least="0"
        @change="set({ grid: $event })" />
    </div>
    <div class="row">
      <button class="act" @click="addLine(true)">Upright line</button>
      <button class="act" @click="addLine(false)">Level line</button>
    </div>
    <ul>
      <li v-for="(entry, i) in guides.lines" :key="i">
        <MeasureField
          :label="`${entry.upright ? 'Upright' : 'Level'} line ${i + 1}`"
          :short="entry.upright ? 'Upright' : 'Level'"
          :value="entry.at"
          :unit="format.unit"
          :ppi="format.ppi"
          :whole="entry.upright ? format.size.w : format.size.h"
          @change="line(i, $event)" />
        <button class="tool" :aria-label="`Take away line ${i + 1}`" @click="line(i, null)"><X :size="14" /></button>
      </li>
    </ul>
    <button v-if="(bench.job?.pieces.length ?? 0) > 1" class="act" @click="everywhere">The same in every piece</button>
  </FoldGroup>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 6px 8px;
  margin: 8px 0;
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

.row {
  display: flex;
  gap: 6px;
}

ul {
  display: grid;
  gap: 4px;
  margin: 6px 0;
}

li {
  display: grid;
  grid-template-columns: 1fr auto;
}
</style>
