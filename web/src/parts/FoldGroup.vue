<script setup lang="ts">
import { ElCollapse, ElCollapseItem } from 'element-plus'
import { useLocalStorage } from '@vueuse/core'

/** A group of a card that folds away. Its heading says what is set in it, and it stays as it was left. */
defineProps<{ name: string; title: string; says?: string }>()

const open = useLocalStorage<string[]>('vatman-open', [])

function fold(names: string | number | (string | number)[], name: string) {
  const now = (Array.isArray(names) ? names : [names]).includes(name)
  open.value = now ? [...new Set([...open.value, name])] : open.value.filter((other) => other !== name)
}
</script>

<template>
  <ElCollapse class="fold" :model-value="open.includes(name) ? [name] : []" @update:model-value="fold($event, name)">
    <ElCollapseItem :name="name" :data-fold="name">
      <template #title
        ><span class="heading">{{ title }}</span
        ><span class="says">{{ open.includes(name) ? '' : says }}</span></template
      >
      <div v-if="open.includes(name)" class="inside"><slot /></div>
    </ElCollapseItem>
  </ElCollapse>
</template>

<style scoped>
.heading {
  font-weight: 600;
  color: var(--ink-2);
  font-size: var(--text-1);
  white-space: nowrap;
}

.says {
  flex: 1;
  min-width: 0;
  margin: 0 6px 0 10px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  text-align: right;
  color: var(--ink-3);
  font-size: var(--text-1);
  font-weight: 400;
}

.inside {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
  padding: 2px 0 14px;
}
</style>
