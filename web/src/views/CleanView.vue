<script setup lang="ts">
import { onMounted, ref } from 'vue'
import SheetDrawing from '../components/stage/SheetDrawing.vue'
import { useBench } from '../stores/bench'

/** The sheet alone at 100 %, without any editing aid: what will leave, as the stage draws it. */
const props = defineProps<{ job: string; side: string }>()
const bench = useBench()
const ready = ref(false)

onMounted(async () => {
  bench.sideId = props.side
  await bench.open(props.job)
  ready.value = true
})
</script>

<template>
  <svg v-if="ready" class="clean" :width="bench.sheet.width" :height="bench.sheet.height" :viewBox="`0 0 ${bench.sheet.width} ${bench.sheet.height}`" role="img" :aria-label="bench.piece?.name">
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
