<script setup lang="ts">
import TipLayer from './parts/TipLayer.vue'
import { useKeptFocus } from './parts/use-kept-focus'
import { useDarkLight } from './stores/light'
import { useLive } from './stores/live'

// Every window listens, whatever it shows.
useLive()
useDarkLight()
useKeptFocus()
</script>

<template>
  <RouterView />
  <TipLayer />
</template>
