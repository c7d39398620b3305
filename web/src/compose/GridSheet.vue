<script setup lang="ts">
import type { GridCard, GuideMark } from '../generated/types'

/** A blank sheet with the lines it would begin with. */
const props = defineProps<{ aspect: number; grid: GridCard | null }>()

function place(mark: GuideMark) {
  const size = props.grid?.size
  const whole = mark.upright ? (size?.w ?? 0) : (size?.h ?? 0)
  const at = whole ? `${(mark.at / whole) * 100}%` : '50%'
  return mark.upright
    ? { left: at, top: '0', bottom: '0', borderLeftWidth: '1px' }
    : { top: at, left: '0', right: '0', borderTopWidth: '1px' }
}
</script>

<template>
  <span class="blank" :style="{ aspectRatio: String(aspect) }"
    ><i v-for="(mark, at) in grid?.marks ?? []" :key="at" :style="place(mark)"
  /></span>
</template>

<style scoped>
.blank {
  position: relative;
  overflow: hidden;
}

i {
  position: absolute;
  border: 0 dashed var(--ink-3);
}
</style>
