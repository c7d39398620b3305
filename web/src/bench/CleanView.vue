<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { useRoute } from 'vue-router'
import SheetDrawing from '../stage/SheetDrawing.vue'
import { useBench } from '../stores/bench'

/** The sheet alone, without any editing aid, at 100 % or as wide as `?w=` says: what will leave, as the stage draws it. */
const props = defineProps<{ job: string; side: string }>()
const bench = useBench()
const ready = ref(false)
const route = useRoute()
const width = computed(() => Number(route.query.w) || bench.sheet.width)
const height = computed(() => (route.query.w ? Math.round((width.value * bench.sheet.height) / bench.sheet.width) : bench.sheet.height))

onMounted(async () => {
  bench.sideId = props.side
  await bench.open(props.job)
  ready.value = true
})
</script>

<template>
  <svg
    v-if="ready"
    class="clean"
    :width="width"
    :height="height"
    preserveAspectRatio="none"
    :viewBox="`0 0 ${bench.sheet.width} ${bench.sheet.height}`"
    role="img"
    :aria-label="bench.piece?.name">
    <SheetDrawing />
  </svg>
</template>

<style>
body:has(.clean) {
  background: #fff;
  overflow: auto;
}
</style>

<style scoped>
.clean {
  display: block;
}
</style>
