<script setup lang="ts">
import NoticeList from './components/parts/NoticeList.vue'
import { useLive } from './stores/live'

// Every window listens, whatever it shows.
useLive()
const light = localStorage.getItem('light')
if (light) document.documentElement.dataset.light = light
</script>

<template>
  <RouterView />
  <NoticeList />
</template>
