<script setup lang="ts" generic="T extends string">
import { ElDropdown } from 'element-plus'
import MenuEntries, { type MenuEntry } from './MenuEntries.vue'

/** A button with a menu of things that can be done. */
defineProps<{ label: string; entries: MenuEntry<T>[]; tool?: boolean; disabled?: boolean }>()
const emit = defineEmits<{ done: [value: T] }>()
</script>

<template>
  <ElDropdown
    trigger="click"
    placement="bottom-start"
    :show-arrow="false"
    :teleported="true"
    popper-class="act-menu"
    :disabled="disabled ?? false"
    @command="emit('done', $event as T)">
    <button :class="tool ? 'tool' : 'act'" :aria-label="tool ? label : undefined" :data-menu="label" :disabled="disabled">
      <slot>{{ label }}</slot>
    </button>
    <template #dropdown><MenuEntries :label="label" :entries="entries" /></template>
  </ElDropdown>
</template>
