<script setup lang="ts">
import { X } from '@lucide/vue'
import { onMounted, onUnmounted, ref } from 'vue'
import { useBench } from '../stores/bench'

/** Large specimens beside the stage: pointing at one shows it on the sheet, leaving takes it back, pressing keeps it. */
defineProps<{ title: string }>()
const bench = useBench()
const head = ref<HTMLElement>()

function close() {
  void bench.leaveTrial()
  bench.chooser = null
  bench.goOnTyping()
}

onMounted(() => {
  if (!bench.typing) head.value?.focus()
})
onUnmounted(() => void bench.leaveTrial())
</script>

<template>
  <section class="chooser" :aria-label="title" @pointerleave="bench.leaveTrial()" @keydown.escape.stop="close">
    <header>
      <h2 ref="head" tabindex="-1">{{ title }}</h2>
      <button class="tool" aria-label="Close" @click="close"><X :size="16" /></button>
    </header>
    <slot />
  </section>
</template>

<style scoped>
header {
  display: flex;
  align-items: center;
  justify-content: space-between;
  margin-bottom: 8px;
}

h2:focus {
  outline: 0;
}
</style>
