<script setup lang="ts">
import { useBench } from '../stores/bench'

/** One item of the scene; drawn anew only when it changes itself. */
defineProps<{ item: string }>()
const bench = useBench()
</script>

<!-- eslint-disable vue/no-v-html -- as in SheetDrawing -->
<template>
  <g :id="`item-${item}`" :data-item="item" v-html="bench.drawn.get(item)?.svg ?? ''" />
</template>
