<script setup lang="ts">
import { ElDialog, ElInput } from 'element-plus'
import { reactive, ref, watch } from 'vue'
import { ApiProblem, api } from '../api/client'
import type { PlaceEntry } from '../generated/types'

/** A size kept under a name, with its bleed, safe area and resolution. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ size: string }>()
const emit = defineEmits<{ kept: [place: PlaceEntry] }>()

const typed = reactive({ name: '', size: '', bleed: '', safe: '', ppi: '' })
const problem = ref('')
watch(open, (now) => {
  if (!now) return
  Object.assign(typed, { name: '', size: props.size, bleed: '', safe: '', ppi: '' })
  problem.value = ''
})

async function keep() {
  const ppi = Number.parseInt(typed.ppi, 10)
  try {
    const place = await api.keepFormat(typed.name, {
      size: typed.size,
      ...(typed.bleed.trim() ? { bleed: typed.bleed } : {}),
      ...(typed.safe.trim() ? { safe: typed.safe } : {}),
      ...(Number.isFinite(ppi) ? { ppi } : {}),
    })
    emit('kept', place)
    open.value = false
  } catch (error) {
    problem.value = error instanceof ApiProblem ? error.problem.detail : String(error)
  }
}
</script>

<template>
  <ElDialog v-model="open" title="Keep a format" width="380px" append-to-body>
    <form class="format" @submit.prevent="keep">
      <label><span>Name</span><ElInput v-model="typed.name" name="format-name" placeholder="Jar label" autofocus /></label>
      <label><span>Size</span><ElInput v-model="typed.size" name="format-size" placeholder="60 x 40 mm" /></label>
      <label><span>Bleed</span><ElInput v-model="typed.bleed" name="format-bleed" placeholder="as usual for that size" /></label>
      <label><span>Safe area</span><ElInput v-model="typed.safe" name="format-safe" placeholder="as usual for that size" /></label>
      <label><span>Pixels an inch</span><ElInput v-model="typed.ppi" name="format-ppi" placeholder="as usual for that size" /></label>
      <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
      <button class="act next" type="submit">Keep it</button>
    </form>
  </ElDialog>
</template>

<style scoped>
.format {
  display: grid;
  gap: 10px;
}

label {
  display: grid;
  grid-template-columns: 104px 1fr;
  align-items: center;
  gap: 10px;
}

.act {
  justify-self: end;
}
</style>
