<script lang="ts">
/** One thing that can be done: what it does, its key where it has one, and whether a line parts it from those before. */
export interface MenuEntry<T extends string = string> {
  value: T
  name: string
  key?: string
  off?: boolean
  apart?: boolean
}
</script>

<script setup lang="ts">
import { ElDropdownItem, ElDropdownMenu } from 'element-plus'

/** The entries of a menu of things that can be done. */
defineProps<{ label: string; entries: MenuEntry[] }>()
</script>

<template>
  <ElDropdownMenu :aria-label="label">
    <ElDropdownItem
      v-for="entry in entries"
      :key="entry.value"
      :command="entry.value"
      :disabled="entry.off ?? false"
      :divided="entry.apart ?? false"
      :data-value="entry.value"
      ><span class="does">{{ entry.name }}</span
      ><kbd v-if="entry.key">{{ entry.key }}</kbd></ElDropdownItem
    >
  </ElDropdownMenu>
</template>

<style scoped>
.does {
  flex: 1;
}

kbd {
  margin-left: 24px;
  color: var(--ink-3);
  font: inherit;
  font-size: var(--text-1);
}
</style>
