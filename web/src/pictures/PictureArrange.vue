<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { ApiProblem, api } from '../api/client'
import { useNewest } from '../api/newest'
import type { Arrangements, MosaicRoom } from '../generated/types'
import { toFine } from '../measures'
import { useBench } from '../stores/bench'
import ShareField from '../parts/ShareField.vue'

/** Several pictures in one arrangement, or frames that are arranged already in another: all forms that fit, side by side, each near the proportions of its pictures. */
const props = defineProps<{ pictures: string[]; items?: string[] }>()
const emit = defineEmits<{ done: [] }>()
const bench = useBench()

/** Gaps, margin and corners as somebody set them; before, as they are or begin. */
const own = ref<MosaicRoom | null>(null)
const found = ref<Arrangements | null>(null)
const wrong = ref('')
let gesture = ''

const shorter = computed(() => toFine(Math.min(bench.sheet.width, bench.sheet.height)))
const room = computed(() => own.value ?? found.value?.room ?? { gap: 0, margin: 0, radius: 0 })
/** In percent of the sheet's shorter side. */
const percent = (length: number) => Math.round((length / shorter.value) * 1_000) / 10

const wish = () => ({ of: props.items ? { items: props.items } : { pictures: props.pictures }, ...(own.value ? { room: own.value } : {}) })
const look = useNewest(
  () => (bench.job && bench.sideId ? api.arrangements(bench.job.id, bench.sideId, wish()) : null),
  (answer) => {
    found.value = answer
    wrong.value = ''
  },
  (error) => {
    found.value = null
    wrong.value = error instanceof ApiProblem ? error.message : 'There is no arrangement of these.'
  },
)
// What others do to the frames, an undo too, is read from them again.
watch(
  () => [props.pictures.join(), props.items?.join(), bench.sideId, props.items ? bench.revision : 0],
  () => {
    if (props.items) own.value = null
    void look()
  },
  { immediate: true },
)
watch(own, look)

/** Other gaps, margin or corners: of frames that are there at once, in the form they have. */
function set(change: Partial<Record<keyof MosaicRoom, number>>, live: boolean) {
  own.value = {
    ...room.value,
    ...Object.fromEntries(Object.entries(change).map(([key, value]) => [key, Math.round((value / 100) * shorter.value)])),
  }
  if (props.items)
    void bench.act(
      { act: 'rearrange', items: props.items, room: own.value, number: null },
      gesture || (live ? (gesture = `room-${crypto.randomUUID()}`) : undefined),
    )
  if (!live) gesture = ''
}

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
    <ShareField
      label="Gap"
      :max="6"
      :step="0.1"
      :value="percent(room.gap)"
      @live="set({ gap: $event }, true)"
      @done="set({ gap: $event }, false)" />
    <ShareField
      label="Margin"
      :max="15"
      :step="0.1"
      :value="percent(room.margin)"
      @live="set({ margin: $event }, true)"
      @done="set({ margin: $event }, false)" />
    <ShareField
      label="Corners"
      :max="20"
      :step="0.1"
      :value="percent(room.radius)"
      @live="set({ radius: $event }, true)"
      @done="set({ radius: $event }, false)" />
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <ul>
      <li v-for="(mosaic, number) in found?.forms.slice(0, 12)" :key="number">
        <button
          :aria-pressed="items ? found?.form === number : undefined"
          :aria-label="`Arrangement ${number + 1}, ${Math.round(mosaic.shown * 100)} percent of the pictures seen`"
          :style="{ aspectRatio: `${bench.sheet.width} / ${bench.sheet.height}` }"
          @click="choose(number)">
          <img
            v-for="(cell, i) in mosaic.cells"
            :key="i"
            :src="api.media(pictures[i]!, 160)"
            alt=""
            :style="{
              left: share(cell.x, bench.sheet.width),
              top: share(cell.y, bench.sheet.height),
              width: share(cell.w, bench.sheet.width),
              height: share(cell.h, bench.sheet.height),
              borderRadius: share(room.radius * 2, bench.sheet.width),
            }" />
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

button:hover,
button[aria-pressed='true'] {
  box-shadow: 0 0 0 2px var(--ink);
}

img {
  position: absolute;
  object-fit: cover;
}
</style>
