<script setup lang="ts">
import TipLayer from './parts/TipLayer.vue'
import { useLive } from './stores/live'

// Every window listens, whatever it shows.
useLive()
const light = localStorage.getItem('light')
if (light) document.documentElement.dataset.light = light
</script>

<template>
  <RouterView />
  <TipLayer />
</template>
