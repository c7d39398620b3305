<script setup lang="ts" generic="T extends string">
/** One of a few, by name. */
defineProps<{ label: string; value: T; choices: { value: T; name: string }[]; hideLabel?: boolean }>()
const emit = defineEmits<{ done: [value: T] }>()
</script>

<template>
  <label class="choice" :class="{ bare: hideLabel }">
    <span v-if="!hideLabel">{{ label }}</span>
    <select class="field" :value="value" :aria-label="label" @change="emit('done', ($event.target as HTMLSelectElement).value as T)" @keydown.stop>
      <option v-for="choice in choices" :key="choice.value" :value="choice.value">{{ choice.name }}</option>
    </select>
  </label>
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

select {
  padding: 0 4px;
}
</style>
