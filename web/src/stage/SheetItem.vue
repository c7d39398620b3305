<script setup lang="ts">
import { useBench } from '../stores/bench'
import { useReady } from './use-ready'

/** One item of the scene; drawn anew only when it changes itself. */
const props = defineProps<{ item: string }>()
const bench = useBench()
const svg = useReady(
  () => bench.drawn.get(props.item)?.svg ?? '',
  () => bench.drawn.get(props.item)?.parts,
)
</script>

<!-- eslint-disable vue/no-v-html -- as in SheetDrawing -->
<template>
  <g :id="`item-${item}`" :data-item="item" v-html="svg" />
</template>
