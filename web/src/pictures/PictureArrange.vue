<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { ApiProblem, api } from '../api/client'
import type { Mosaic } from '../generated/types'
import { toFine } from '../measures'
import { useBench } from '../stores/bench'
import ShareField from '../parts/ShareField.vue'

/** Several pictures in one arrangement, or frames that are arranged already in another: all forms that fit, side by side, each near the proportions of its pictures. */
const props = defineProps<{ pictures: string[]; items?: string[] }>()
const emit = defineEmits<{ done: [] }>()
const bench = useBench()

/** In percent of the sheet's shorter side. */
const gap = ref(1.5)
const margin = ref(4)
const radius = ref(0)
const found = ref<Mosaic[]>([])
const wrong = ref('')

const shorter = computed(() => Math.min(bench.sheet.width, bench.sheet.height))
const room = computed(() => ({ gap: toFine((gap.value / 100) * shorter.value), margin: toFine((margin.value / 100) * shorter.value), radius: toFine((radius.value / 100) * shorter.value) }))

const look = useDebounceFn(async () => {
  if (!bench.job || !bench.sideId) return
  try {
    found.value = await api.arrangements(bench.job.id, bench.sideId, { pictures: props.pictures, room: room.value })
    wrong.value = ''
  } catch (error) {
    found.value = []
    wrong.value = error instanceof ApiProblem ? error.message : 'There is no arrangement of these.'
  }
}, 60)
watch(() => [props.pictures.join(), bench.sideId, room.value], look, { immediate: true })

async function choose(number: number) {
  if (!bench.sideId) return
  if (props.items) {
    await bench.act({ act: 'rearrange', items: props.items, room: room.value, number })
    return
  }
  const response = await bench.act({ act: 'arrangePictures', side: bench.sideId, pictures: props.pictures, room: room.value, number })
  if (!response) return
  bench.selection = response.made
  emit('done')
}

const share = (part: number, whole: number) => `${(part / toFine(whole)) * 100}%`
</script>

<template>
  <div class="arrange">
    <ShareField label="Gap" :max="6" :step="0.1" :value="gap" @live="gap = $event" @done="gap = $event" />
    <ShareField label="Margin" :max="15" :step="0.1" :value="margin" @live="margin = $event" @done="margin = $event" />
    <ShareField label="Corners" :max="20" :step="0.1" :value="radius" @live="radius = $event" @done="radius = $event" />
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <ul>
      <li v-for="(mosaic, number) in found.slice(0, 12)" :key="number">
        <button :aria-label="`Arrangement ${number + 1}, ${Math.round(mosaic.shown * 100)} percent of the pictures seen`" :style="{ aspectRatio: `${bench.sheet.width} / ${bench.sheet.height}` }" @click="choose(number)">
          <img v-for="(cell, i) in mosaic.cells" :key="i" :src="api.media(pictures[i]!, 160)" alt="" :style="{ left: share(cell.x, bench.sheet.width), top: share(cell.y, bench.sheet.height), width: share(cell.w, bench.sheet.width), height: share(cell.h, bench.sheet.height), borderRadius: `${radius / 2}px` }" />
        </button>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.arrange {
  display: grid;
  gap: 8px;
  margin-bottom: 14px;
}

ul {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 8px;
}

button {
  position: relative;
  width: 100%;
  background: var(--paper);
  box-shadow: 0 0 0 1px var(--rule);
}

button:hover {
  box-shadow: 0 0 0 2px var(--ink);
}

img {
  position: absolute;
  object-fit: cover;
}
</style>
