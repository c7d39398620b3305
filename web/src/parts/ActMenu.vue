<script setup lang="ts" generic="T extends string">
import { ElDropdown, ElDropdownItem, ElDropdownMenu } from 'element-plus'

/** A button with a menu of things that can be done. Each entry says what it does, and its key where it has one. */
defineProps<{ label: string; entries: { value: T; name: string; key?: string; off?: boolean; apart?: boolean }[]; tool?: boolean; disabled?: boolean }>()
const emit = defineEmits<{ done: [value: T] }>()
</script>

<template>
  <ElDropdown trigger="click" placement="bottom-start" :show-arrow="false" :teleported="true" popper-class="act-menu" :disabled="disabled ?? false" @command="emit('done', $event as T)">
    <button :class="tool ? 'tool' : 'act'" :aria-label="tool ? label : undefined" :data-menu="label" :disabled="disabled"><slot>{{ label }}</slot></button>
    <template #dropdown>
      <ElDropdownMenu :aria-label="label">
        <ElDropdownItem v-for="entry in entries" :key="entry.value" :command="entry.value" :disabled="entry.off ?? false" :divided="entry.apart ?? false" :data-value="entry.value"><span class="does">{{ entry.name }}</span><kbd v-if="entry.key">{{ entry.key }}</kbd></ElDropdownItem>
      </ElDropdownMenu>
    </template>
  </ElDropdown>
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
