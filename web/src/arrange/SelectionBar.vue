<script setup lang="ts">
import {
  AlignCenterHorizontal,
  AlignCenterVertical,
  AlignEndHorizontal,
  AlignEndVertical,
  AlignHorizontalSpaceBetween,
  AlignStartHorizontal,
  AlignStartVertical,
  Copy,
  Group,
  Layers,
  SquareMousePointer,
  Trash2,
  Ungroup,
} from '@lucide/vue'
import { ElInput } from 'element-plus'
import { computed, ref } from 'vue'
import { ApiProblem, api } from '../api/client'
import type { AlignEdge, AlignTo, Axis, Likeness, Order } from '../generated/types'
import { useBench } from '../stores/bench'
import { useNotices } from '../stores/notices'
import ActMenu from '../parts/ActMenu.vue'
import ChoiceField from '../parts/ChoiceField.vue'

/** What can be done with what is selected: lining up, even gaps, order, groups, copies. */
const emit = defineEmits<{ remove: [] }>()
const bench = useBench()
const notices = useNotices()

const items = computed(() => bench.selection)
const several = computed(() => items.value.length > 1)
type To = 'selection' | 'sheet' | 'safe' | 'margins' | 'last'
const to = ref<To>('selection')
const gap = ref('')
const hasMargins = computed(() => (bench.piece?.guides.margins ?? []).some((margin) => margin > 0))
const inGroup = computed(() => bench.selected.some((p) => (p.item.groups ?? []).length > 0))

const edges: { edge: AlignEdge; label: string; icon: typeof Copy }[] = [
  { edge: 'left', label: 'Left edges', icon: AlignStartVertical },
  { edge: 'centre', label: 'Middles, across', icon: AlignCenterVertical },
  { edge: 'right', label: 'Right edges', icon: AlignEndVertical },
  { edge: 'top', label: 'Top edges', icon: AlignStartHorizontal },
  { edge: 'middle', label: 'Middles, up and down', icon: AlignCenterHorizontal },
  { edge: 'bottom', label: 'Bottom edges', icon: AlignEndHorizontal },
]
const goals = computed<{ value: To; name: string }[]>(() => [
  ...(several.value
    ? [
        { value: 'selection' as const, name: 'to each other' },
        { value: 'last' as const, name: 'to the last picked' },
        { value: 'sheet' as const, name: 'to the sheet' },
      ]
    : [{ value: 'selection' as const, name: 'to the sheet' }]),
  { value: 'safe', name: 'to the safe area' },
  ...(hasMargins.value ? [{ value: 'margins' as const, name: 'to the margins' }] : []),
])
const goal = computed(() => (goals.value.some((entry) => entry.value === to.value) ? to.value : 'selection'))
const target = computed<AlignTo>(() => {
  if (!several.value) return { kind: goal.value === 'safe' || goal.value === 'margins' ? goal.value : 'sheet' }
  return goal.value === 'last' ? { kind: 'item', item: items.value.at(-1)! } : { kind: goal.value }
})

const align = (edge: AlignEdge) => bench.act({ act: 'align', items: items.value, edge, to: target.value })

async function distribute(axis: Axis) {
  let exact: number | null = null
  const format = bench.piece?.format
  if (gap.value.trim() && format) {
    try {
      exact = await api.measure({ text: gap.value, unit: format.unit, ppi: format.ppi })
    } catch (error) {
      notices.say(error instanceof ApiProblem ? `${error.message} Nothing was moved.` : 'The gap is not a length. Nothing was moved.', {
        trouble: true,
      })
      return
    }
  }
  await bench.act({ act: 'distribute', items: items.value, axis, gap: exact })
}

const spaces = [
  { value: 'across', name: 'Even gaps across' },
  { value: 'down', name: 'Even gaps down' },
  { value: 'tidy', name: 'Tidy up into rows and columns' },
  { value: 'width', name: 'As wide as the last one picked', apart: true },
  { value: 'height', name: 'As high as the last one picked' },
] as const
function space(what: (typeof spaces)[number]['value']) {
  if (what === 'across' || what === 'down') void distribute(what)
  else if (what === 'tidy') void bench.act({ act: 'tidy', items: items.value })
  else void bench.act({ act: 'matchSize', items: items.value, key: items.value.at(-1)!, alike: what })
}

const orders: { value: Order; name: string; key?: string }[] = [
  { value: 'front', name: 'To the front', key: 'Shift Page up' },
  { value: 'forward', name: 'Forward', key: 'Page up' },
  { value: 'back', name: 'Back', key: 'Page down' },
  { value: 'bottom', name: 'To the very back', key: 'Shift Page down' },
  { value: 'behind', name: 'Behind what it covers' },
]
const likenesses: { value: Likeness; name: string }[] = [
  { value: 'kind', name: 'Same kind' },
  { value: 'colour', name: 'Same colour' },
  { value: 'family', name: 'Same family' },
  { value: 'words', name: 'All words' },
]

async function also(by: Likeness) {
  const id = bench.selection[0]
  if (!id || !bench.job) return
  try {
    const found = await api.alike(bench.job.id, id, by)
    if (found.length <= 1) notices.say('Nothing else on this side is like it.')
    else bench.selection = found
  } catch (error) {
    notices.report(error)
  }
}
</script>

<template>
  <div class="selection" role="toolbar" aria-label="What is selected">
    <template v-if="items.length">
      <button v-for="entry in edges" :key="entry.edge" class="tool" :aria-label="`Align: ${entry.label}`" @click="align(entry.edge)">
        <component :is="entry.icon" :size="16" />
      </button>
      <ChoiceField class="to" label="What to align to" hide-label :value="goal" :choices="goals" @done="to = $event" />
      <template v-if="several">
        <ActMenu label="Space evenly" tool :entries="[...spaces]" @done="space"><AlignHorizontalSpaceBetween :size="16" /></ActMenu>
        <ElInput
          v-model="gap"
          class="gap"
          aria-label="Exact gap"
          data-tip="Exact gap; empty: as it comes out"
          placeholder="gap"
          :spellcheck="false"
          @keydown.stop />
      </template>
      <i />
      <ActMenu label="Order" tool :entries="orders" @done="bench.reorder"><Layers :size="16" /></ActMenu>
      <ActMenu label="Select what is alike" tool :entries="likenesses" @done="also"><SquareMousePointer :size="16" /></ActMenu>
      <button v-if="several" class="tool" aria-label="Make it one group" @click="bench.act({ act: 'group', items: bench.selection })">
        <Group :size="16" />
      </button>
      <button v-if="inGroup" class="tool" aria-label="Dissolve the group" @click="bench.act({ act: 'ungroup', items: bench.selection })">
        <Ungroup :size="16" />
      </button>
      <button class="tool" aria-label="Duplicate" @click="bench.duplicate()"><Copy :size="16" /></button>
      <button class="tool" aria-label="Remove" @click="emit('remove')"><Trash2 :size="16" /></button>
    </template>
    <span v-else class="quiet">{{ bench.side?.name }} of {{ bench.piece?.name }}</span>
  </div>
</template>

<style scoped>
.selection {
  display: flex;
  align-items: center;
  gap: 1px;
  min-width: 0;
}

.tool {
  width: 28px;
  height: 28px;
}

:deep(.tool) {
  width: 28px;
  height: 28px;
}

.to {
  flex: none;
  width: 126px;
  margin: 0 4px;
}

.to :deep(.el-select__wrapper) {
  min-height: 28px;
}

.gap {
  flex: none;
  width: 56px;
  height: 28px;
}

i {
  width: 1px;
  height: 18px;
  margin: 0 5px;
  background: var(--rule);
}

.quiet {
  padding-left: 6px;
  font-size: var(--text-1);
}

@container bar (max-width: 860px) {
  .to {
    width: 114px;
    margin: 0 2px;
  }

  .gap {
    width: 50px;
  }

  .tool,
  :deep(.tool) {
    width: 26px;
  }

  i {
    margin: 0 2px;
  }
}

@container bar (max-width: 640px) {
  .to {
    width: 78px;
    margin: 0 2px;
  }

  .gap {
    display: none;
  }

  .tool,
  :deep(.tool) {
    width: 25px;
  }

  i {
    margin: 0 2px;
  }
}

@container bar (max-width: 540px) {
  .to,
  i {
    display: none;
  }
}
</style>
