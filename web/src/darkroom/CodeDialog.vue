<script setup lang="ts">
import { ElDialog } from 'element-plus'
import { onMounted, shallowRef } from 'vue'
import { api, type Treated } from '../api/client'
import type { RecipeCodeCard } from '../generated/types'
import { useBench } from '../stores/bench'
import { useNotices } from '../stores/notices'

/** What is done, as a code that can be scanned: printed beside a picture, or photographed from a screen. */
const props = defineProps<{ of: Treated; name: string }>()
const emit = defineEmits<{ close: [] }>()
const bench = useBench()
const notices = useNotices()
const card = shallowRef<RecipeCodeCard | null>(null)
onMounted(async () => {
  try {
    card.value = await api.recipeCode(bench.job!.id, props.of, props.name)
  } catch (error) {
    notices.report(error)
    emit('close')
  }
})
</script>

<template>
  <ElDialog v-if="card" :model-value="true" title="Recipe as a code" width="420" append-to-body @close="emit('close')">
    <img :src="card.address" :alt="`Code of the recipe ${name}`" />
    <p class="quiet">{{ card.says }} Take a picture of it and bring it under “Recipe from a file or code…”, here or in another job.</p>
    <template #footer
      ><button class="act" @click="emit('close')">Done</button>
      <a class="act next" :href="card.address" :download="`${card.file}.png`">Save as a picture</a></template
    >
  </ElDialog>
</template>

<style scoped>
a {
  margin-left: 8px;
  text-decoration: none;
}

img {
  display: block;
  width: 300px;
  margin: 0 auto;
  image-rendering: pixelated;
}
</style>
