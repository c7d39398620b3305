<script setup lang="ts">
import {
  AlignCenterHorizontal,
  AlignCenterVertical,
  AlignEndHorizontal,
  AlignEndVertical,
  AlignStartHorizontal,
  AlignStartVertical,
  Rows3,
  Columns3,
} from '@lucide/vue'
import { computed } from 'vue'
import type { Direction, Stack, StackAlign, StackChange } from '../generated/types'
import { useBench } from '../stores/bench'
import MeasureField from '../parts/MeasureField.vue'

/** A selection that spaces itself: how its rows follow each other, with which gap. */
const bench = useBench()

const format = computed(() => bench.piece!.format)
/** The stack that is exactly what is selected, if it is one. */
const stack = computed<Stack | null>(() => {
  const items = bench.side?.items ?? []
  const picked = new Set(bench.selection)
  return (
    (bench.side?.stacks ?? []).find((entry) => {
      const members = items.filter((item) => item.groups?.includes(entry.group))
      return members.length === picked.size && members.every((item) => picked.has(item.id))
    }) ?? null
  )
})

const make = (direction: Direction) => bench.act({ act: 'stack', items: bench.selection, direction })

function set(change: StackChange | null) {
  const own = stack.value
  if (own && bench.sideId) void bench.act({ act: 'changeStack', side: bench.sideId, group: own.group, change })
}

const aligns = computed<{ align: StackAlign; label: string; icon: typeof Rows3 }[]>(() =>
  stack.value?.direction === 'down'
    ? [
        { align: 'first', label: 'Rows at the left', icon: AlignStartVertical },
        { align: 'middle', label: 'Rows in the middle', icon: AlignCenterVertical },
        { align: 'last', label: 'Rows at the right', icon: AlignEndVertical },
      ]
    : [
        { align: 'first', label: 'Columns at the top', icon: AlignStartHorizontal },
        { align: 'middle', label: 'Columns in the middle', icon: AlignCenterHorizontal },
        { align: 'last', label: 'Columns at the bottom', icon: AlignEndHorizontal },
      ],
)
</script>

<template>
  <section v-if="bench.selection.length > 1 || stack">
    <template v-if="stack">
      <h3>Stack</h3>
      <div class="row">
        <button
          class="tool"
          :aria-pressed="stack.direction === 'down'"
          aria-label="One below the other"
          @click="set({ direction: 'down' })">
          <Rows3 :size="16" />
        </button>
        <button class="tool" :aria-pressed="stack.direction === 'across'" aria-label="Side by side" @click="set({ direction: 'across' })">
          <Columns3 :size="16" />
        </button>
        <span />
        <button
          v-for="entry in aligns"
          :key="entry.align"
          class="tool"
          :aria-label="entry.label"
          :aria-pressed="stack.align === entry.align"
          @click="set({ align: entry.align })">
          <component :is="entry.icon" :size="16" />
        </button>
      </div>
      <div class="row">
        <MeasureField
          label="Gap of the stack"
          short="Gap"
          :value="stack.gap"
          :unit="format.unit"
          :ppi="format.ppi"
          @change="set({ gap: $event })" />
        <button class="act" @click="set(null)">Space freely again</button>
      </div>
    </template>
    <div v-else class="row">
      <button class="act" data-tip="A column that spaces itself" @click="make('down')"><Rows3 :size="14" />Stack down</button>
      <button class="act" data-tip="A row that spaces itself" @click="make('across')"><Columns3 :size="14" />Stack across</button>
    </div>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 6px;
}

.row {
  display: flex;
  align-items: center;
  gap: 2px;
}

.row span {
  flex: 1;
}

.row .act {
  flex: 1;
  gap: 4px;
  min-width: 0;
  padding: 0 4px;
  font-size: var(--text-1);
  white-space: nowrap;
}

/* The field gives way, never the word. */
.row .measure {
  flex: 1;
  min-width: 0;
}

.row .measure + .act {
  flex: none;
}

.row .act + .act,
.row .measure + .act {
  margin-left: 6px;
}
</style>
