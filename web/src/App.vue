<script setup lang="ts">
import NoticeList from './components/parts/NoticeList.vue'

const light = localStorage.getItem('light')
if (light) document.documentElement.dataset.light = light
</script>

<template>
  <RouterView />
  <NoticeList />
</template>
