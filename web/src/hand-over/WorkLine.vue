<script setup lang="ts">
import { ElProgress } from 'element-plus'
import type { WorkCard } from '../generated/types'

/** How far work is, and giving it up. */
defineProps<{ state: WorkCard; what: string }>()
defineEmits<{ giveUp: [] }>()
</script>

<template>
  <div class="making" role="status">
    <ElProgress :percentage="state.of ? Math.round((state.done / state.of) * 100) : 0" :show-text="false" :stroke-width="6" />
    <span class="quiet">{{ state.of > 1 ? `${state.done} of ${state.of} ${what}` : 'Making the file' }}</span>
    <button class="link" @click="$emit('giveUp')">Give up</button>
  </div>
</template>

<style scoped>
.making {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto auto;
  align-items: center;
  gap: 8px;
}
</style>
