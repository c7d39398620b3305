<script setup lang="ts">
import { useBench } from '../stores/bench'
import SheetBunch from './SheetBunch.vue'

/** The scene as the server made it: one group an item, so that an edit replaces only what it changed. */
const bench = useBench()
</script>

<!-- eslint-disable vue/no-v-html -- the fragments are written by our own server from a closed scene, never by people -->
<template>
  <g id="sheet-ground" v-html="bench.ground" />
  <SheetBunch :from="0" :to="bench.order.length" />
</template>
