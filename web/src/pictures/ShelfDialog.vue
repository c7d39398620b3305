<script setup lang="ts">
import { ElDialog } from 'element-plus'
import { onMounted } from 'vue'
import { api } from '../api/client'
import { useShelf } from '../stores/shelf'

/** One picture of the shelf is chosen. */
defineProps<{ title: string }>()
const emit = defineEmits<{ choose: [picture: string]; close: [] }>()
const shelf = useShelf()
onMounted(() => {
  if (!shelf.pictures.length) void shelf.load()
})
</script>

<template>
  <ElDialog :model-value="true" :title="title" width="560" append-to-body @close="emit('close')">
    <ul v-if="shelf.pictures.length">
      <li v-for="card in shelf.pictures" :key="card.id">
        <button :aria-label="card.name" :title="card.name" @click="emit('choose', card.id)">
          <img :src="api.media(card.id, 160)" alt="" loading="lazy" />
        </button>
      </li>
    </ul>
    <p v-else class="quiet">There are no pictures on the shelf yet. Bring some under Pictures first.</p>
  </ElDialog>
</template>

<style scoped>
ul {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(96px, 1fr));
  gap: 8px;
  max-height: 60vh;
  margin: 0;
  padding: 2px;
  overflow-y: auto;
  list-style: none;
}

button {
  width: 100%;
  padding: 0;
}

img {
  display: block;
  width: 100%;
  aspect-ratio: 1;
  object-fit: cover;
  background: var(--paper-3);
}
</style>
