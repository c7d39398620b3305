<script setup lang="ts" generic="T extends string | number">
import { ElOption, ElSelect } from 'element-plus'

/** One of a few, by name. */
defineProps<{ label: string; value: T; choices: { value: T; name: string }[]; hideLabel?: boolean }>()
const emit = defineEmits<{ done: [value: T] }>()
</script>

<template>
  <div class="choice" :class="{ bare: hideLabel }">
    <span v-if="!hideLabel" aria-hidden="true">{{ label }}</span>
    <ElSelect
      :model-value="value"
      :aria-label="label"
      :fit-input-width="false"
      :show-arrow="false"
      placement="bottom-end"
      @update:model-value="emit('done', $event as T)"
      @keydown.stop>
      <ElOption v-for="choice in choices" :key="choice.value" :value="choice.value" :label="choice.name" :data-value="choice.value" />
    </ElSelect>
  </div>
</template>

<style scoped>
.choice {
  display: grid;
  grid-template-columns: 62px minmax(0, 1fr);
  align-items: center;
  gap: 12px;
}

.choice.bare {
  grid-template-columns: minmax(0, 1fr);
}

span {
  color: var(--ink-3);
  font-size: var(--text-1);
}
</style>
