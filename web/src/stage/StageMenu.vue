<script setup lang="ts">
import { ElDropdown } from 'element-plus'
import { computed, nextTick, ref } from 'vue'
import MenuEntries, { type MenuEntry } from '../parts/MenuEntries.vue'
import { useBench } from '../stores/bench'

/** What applies to what is under the pointer, by the right button or a long press. */
const emit = defineEmits<{ open: []; remove: []; paste: []; copy: [cut: boolean] }>()
const bench = useBench()
const menu = ref<InstanceType<typeof ElDropdown>>()
const at = ref({ x: 0, y: 0 })
const stack = ref<string[]>([])
/** A place without extent, where the menu hangs. */
const spot = ref({ getBoundingClientRect: () => new DOMRect(at.value.x, at.value.y, 0, 0) })

async function show(event: MouseEvent, under: string[]) {
  menu.value?.handleClose()
  at.value = { x: event.clientX, y: event.clientY }
  stack.value = under
  const [front] = under
  if (front && !under.some((id) => bench.selection.includes(id))) bench.selection = bench.withGroup(front)
  if (!front) bench.selection = []
  await nextTick()
  menu.value?.handleOpen()
}

const only = computed(() => bench.only)
/** Whether its words are asked for when the next of a series is made. */
const asked = computed(() => (only.value ? (bench.job?.kins[only.value.item.kin]?.asked ?? false) : false))
const entries = computed<MenuEntry[]>(() => {
  const list: MenuEntry[] = []
  const p = only.value
  if (p?.content.kind === 'words') list.push({ value: 'open', name: 'Type', key: 'Enter' })
  if (p?.content.kind === 'picture' && p.content.picture) list.push({ value: 'open', name: 'Move the picture in its frame', key: 'Enter' })
  if (bench.selection.length) {
    list.push({ value: 'cut', name: 'Cut', key: 'Ctrl X' }, { value: 'copy', name: 'Copy', key: 'Ctrl C' })
  }
  list.push({ value: 'paste', name: 'Paste', key: 'Ctrl V' })
  if (!bench.selection.length) return list
  list.push(
    { value: 'duplicate', name: 'Duplicate', key: 'Ctrl D' },
    { value: 'front', name: 'To the front', key: 'Shift Page up', apart: true },
    { value: 'forward', name: 'Forward', key: 'Page up' },
    { value: 'back', name: 'Back', key: 'Page down' },
    { value: 'bottom', name: 'To the very back', key: 'Shift Page down' },
  )
  if (bench.selection.length > 1) list.push({ value: 'group', name: 'Make it one group', key: 'Ctrl G', apart: true })
  if (bench.selected.some((one) => (one.item.groups ?? []).length))
    list.push({ value: 'ungroup', name: 'Dissolve the group', key: 'Shift Ctrl G' })
  list.push({ value: 'mirror', name: 'Mirror in place', apart: true })
  if (p) list.push({ value: 'lock', name: p.item.locked ? 'Unlock' : 'Lock in place' })
  list.push({ value: 'hide', name: 'Hide' })
  const below = stack.value.filter((id) => !bench.selection.includes(id)).slice(0, 5)
  below.forEach((id, i) =>
    list.push({ value: `pick ${id}`, name: `Select ${bench.names.get(id)?.slice(0, 28) || 'what lies here'}`, apart: i === 0 }),
  )
  if (p?.content.kind === 'words')
    list.push({ value: 'ask', name: asked.value ? 'Not asked for next time' : 'Ask for these words next time', apart: true })
  list.push({ value: 'remove', name: 'Remove', key: 'Delete', apart: true })
  if (bench.selected.some((one) => bench.shownIn(one.item.kin) > 1)) list.push({ value: 'everywhere', name: 'Remove in all sizes' })
  return list
})

function run(what: string) {
  const items = [...bench.selection]
  if (what.startsWith('pick ')) bench.selection = [what.slice(5)]
  else if (what === 'open') emit('open')
  else if (what === 'remove') emit('remove')
  else if (what === 'paste') emit('paste')
  else if (what === 'copy' || what === 'cut') emit('copy', what === 'cut')
  else if (what === 'duplicate') void bench.duplicate()
  else if (what === 'front' || what === 'forward' || what === 'back' || what === 'bottom') void bench.reorder(what)
  else if (what === 'group' || what === 'ungroup') void bench.act({ act: what, items })
  else if (what === 'mirror') void bench.act({ act: 'mirror', items })
  else if (what === 'lock') void bench.act({ act: 'setFlags', items, locked: !only.value?.item.locked })
  else if (what === 'ask') void bench.act({ act: 'askNextTime', item: items[0]!, asked: !asked.value })
  else if (what === 'everywhere') {
    bench.selection = []
    void bench.act({ act: 'removeEverywhere', items })
  } else if (what === 'hide') void bench.act({ act: 'setFlags', items, hidden: true })
}

defineExpose({ show })
</script>

<template>
  <ElDropdown
    ref="menu"
    trigger="contextmenu"
    placement="bottom-start"
    :show-arrow="false"
    virtual-triggering
    :virtual-ref="spot"
    popper-class="act-menu"
    @command="run">
    <template #dropdown><MenuEntries label="What applies here" :entries="entries" /></template>
  </ElDropdown>
</template>
