<script setup lang="ts">
import { Check, Eye, Focus, Maximize, Minus, Plus } from '@lucide/vue'
import { ElDropdown, ElDropdownItem, ElDropdownMenu } from 'element-plus'
import { computed } from 'vue'
import { useBench } from '../stores/bench'
import ActualSize from './ActualSize.vue'
import type { Viewport } from './use-viewport'

/** What is shown beside the art, and at which size. */
export interface Shown {
  outside: boolean
  edges: boolean
  lines: boolean
  rulers: boolean
  cut?: boolean
  through?: boolean
}
defineProps<{ viewport: Viewport; shown: Shown }>()
const emit = defineEmits<{ show: [what: keyof Shown]; selection: [] }>()
const bench = useBench()
const sides = computed(() => (bench.piece?.sides.length ?? 0) > 1)
const on = (what: Entry['value'], shown: Shown) =>
  what === 'sides' ? bench.beside !== null && bench.beside === bench.piece?.id : shown[what]
function choose(what: Entry['value']) {
  if (what === 'sides') bench.beside = bench.beside === bench.piece?.id ? null : (bench.piece?.id ?? null)
  else emit('show', what)
}

type Entry = { value: keyof Shown | 'sides'; name: string }
const entries: Entry[] = [
  { value: 'outside', name: 'What lies outside the sheet' },
  { value: 'edges', name: 'Trim, bleed and safe area' },
  { value: 'lines', name: 'Guides' },
  { value: 'rulers', name: 'Rulers; pull a guide out of them' },
  { value: 'cut', name: 'As it will be cut' },
  { value: 'through', name: 'The back, through the paper' },
  { value: 'sides', name: 'All sides beside each other' },
]
</script>

<template>
  <div class="view" role="toolbar" aria-label="View">
    <ElDropdown trigger="click" placement="bottom-end" :show-arrow="false" popper-class="act-menu" @command="choose">
      <button class="tool" aria-label="Show" data-menu="Show"><Eye :size="16" /></button>
      <template #dropdown>
        <ElDropdownMenu aria-label="Show">
          <ElDropdownItem
            v-for="entry in entries.filter((one) => one.value !== 'sides' || sides)"
            :key="entry.value"
            :command="entry.value"
            :data-value="entry.value"
            ><Check :size="14" :class="{ off: !on(entry.value, shown) }" class="tick" />{{ entry.name
            }}<span class="visually-hidden">{{ on(entry.value, shown) ? ', shown' : ', not shown' }}</span></ElDropdownItem
          >
        </ElDropdownMenu>
      </template>
    </ElDropdown>
    <button class="tool" aria-label="Zoom to what is selected" :disabled="!bench.selection.length" @click="emit('selection')">
      <Focus :size="16" />
    </button>
    <button class="tool" aria-label="Smaller" @click="viewport.zoom(0.8)"><Minus :size="16" /></button>
    <button
      class="percent"
      :aria-label="`${viewport.percent.value} percent. Show at 100 percent`"
      data-tip="Show at 100 %"
      @click="viewport.zoom(1 / viewport.view.scale)">
      {{ viewport.percent.value }} %
    </button>
    <button class="tool" aria-label="Larger" @click="viewport.zoom(1.25)"><Plus :size="16" /></button>
    <button class="tool" aria-label="Fit the sheet" @click="viewport.fit"><Maximize :size="16" /></button>
    <ActualSize @show="viewport.zoom($event / viewport.view.scale)" />
  </div>
</template>

<style scoped>
.view {
  display: flex;
  align-items: center;
  gap: 1px;
  flex: none;
}

.view :deep(.tool) {
  width: 28px;
  height: 28px;
}

.percent {
  width: 46px;
  height: 28px;
  text-align: center;
  font-size: var(--text-1);
  color: var(--ink-2);
}

.tick {
  margin-right: 8px;
}

.tick.off {
  visibility: hidden;
}

@container bar (max-width: 860px) {
  .view :deep(.tool) {
    width: 26px;
  }

  .percent {
    width: 40px;
  }
}

@container bar (max-width: 640px) {
  .view :deep([aria-label='Zoom to what is selected']),
  .view :deep([aria-label='As large as it is printed']) {
    display: none;
  }

  .view :deep(.tool) {
    width: 25px;
  }

  .percent {
    display: none;
  }
}
</style>
