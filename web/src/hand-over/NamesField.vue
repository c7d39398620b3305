<script setup lang="ts">
import { ref } from 'vue'
import { ApiProblem, api } from '../api/client'
import DraftField from '../parts/DraftField.vue'
import FoldGroup from '../parts/FoldGroup.vue'
import { useShelf } from '../stores/shelf'

/** How files are named, kept for all jobs. */
defineProps<{ example: string }>()
const emit = defineEmits<{ kept: [] }>()
const shelf = useShelf()
const problem = ref('')

async function keep(pattern: string) {
  try {
    await api.keepNames(pattern)
    await shelf.loadKept()
    problem.value = ''
    emit('kept')
  } catch (error) {
    problem.value = error instanceof ApiProblem ? error.problem.detail : String(error)
  }
}
</script>

<template>
  <FoldGroup name="names" title="Names of files" :says="example">
    <DraftField :value="shelf.kept.names" aria-label="How files are named" @done="keep" />
    <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    <p class="quiet">Fields are [job], [piece], [size], [date] and [number]. The first file is called {{ example || 'so' }}.</p>
  </FoldGroup>
</template>
