<script setup lang="ts">
import { ChevronLeft, ChevronRight, X } from '@lucide/vue'
import { reactive, watch } from 'vue'
import { api } from '../api/client'
import type { PlaceEntry, WayCard } from '../generated/types'
import { useBench } from '../stores/bench'
import { useNotices } from '../stores/notices'

/** Pieces as they would be, before they are added: each in the best of its arrangements, or another. */
const props = defineProps<{ places: PlaceEntry[] }>()
const emit = defineEmits<{ leave: [place: PlaceEntry]; add: [ways: Record<string, number>] }>()
const bench = useBench()
const notices = useNotices()

const ways = reactive<Record<string, WayCard[]>>({})
const taken = reactive<Record<string, number>>({})

watch(
  () => [props.places.map((place) => place.id).join(), bench.revision],
  async (now, before) => {
    if (!bench.job) return
    const anew = now[1] !== before?.[1]
    for (const place of props.places.filter((one) => anew || !ways[one.id])) {
      try {
        ways[place.id] = await api.ways(bench.job.id, place.id)
        if ((taken[place.id] ?? 0) >= ways[place.id]!.length) taken[place.id] = 0
      } catch (error) {
        notices.report(error)
      }
    }
  },
  { immediate: true },
)

const way = (place: PlaceEntry) => ways[place.id]?.[taken[place.id] ?? 0]

function turn(place: PlaceEntry, by: number) {
  const count = ways[place.id]?.length ?? 1
  taken[place.id] = ((taken[place.id] ?? 0) + by + count) % count
}

const HIGH = 168
function size(place: PlaceEntry) {
  const ratio = place.format.size.w / place.format.size.h
  const width = Math.min(HIGH * ratio, 330)
  return { width: `${width}px`, height: `${width / ratio}px` }
}

const chosen = () => Object.fromEntries(props.places.map((place) => [place.id, taken[place.id] ?? 0]))
</script>

<template>
  <section class="strip" aria-label="To be added">
    <ul>
      <li v-for="place in places" :key="place.id" :data-new="place.id">
        <img
          class="checks"
          :style="size(place)"
          :src="api.wayPicture(bench.job!.id, place.id, taken[place.id] ?? 0, 420, bench.revision)"
          :alt="`${place.name} as it would be`" />
        <div class="line">
          <span
            ><b>{{ place.name }}</b> <span class="quiet">{{ place.size }}</span></span
          >
          <button class="tool" :aria-label="`Leave out ${place.name}`" @click="emit('leave', place)"><X :size="14" /></button>
        </div>
        <div class="line ways">
          <button
            class="tool"
            :aria-label="`${place.name}: the arrangement before`"
            :disabled="(ways[place.id]?.length ?? 0) < 2"
            @click="turn(place, -1)">
            <ChevronLeft :size="15" />
          </button>
          <span
            >{{ way(place)?.name ?? '…'
            }}{{ (ways[place.id]?.length ?? 0) > 1 ? `, ${(taken[place.id] ?? 0) + 1} of ${ways[place.id]!.length}` : '' }}</span
          >
          <button
            class="tool"
            :aria-label="`${place.name}: the next arrangement`"
            :disabled="(ways[place.id]?.length ?? 0) < 2"
            @click="turn(place, 1)">
            <ChevronRight :size="15" />
          </button>
        </div>
        <p v-if="way(place)?.left.length" class="quiet left">No room for {{ way(place)!.left.join(', ') }}</p>
      </li>
    </ul>
    <button class="act next" @click="emit('add', chosen())">
      {{ places.length === 1 ? 'Add this size' : `Add these ${places.length} sizes` }}
    </button>
  </section>
</template>

<style scoped>
.strip {
  display: grid;
  gap: 14px;
  margin: -18px -24px 24px;
  padding: 18px 24px;
  background: var(--paper-3);
  border-bottom: 1px solid var(--rule);
}

ul {
  display: flex;
  flex-wrap: wrap;
  align-items: flex-end;
  gap: 20px 24px;
}

li {
  display: grid;
  gap: 4px;
  min-width: 168px;
  max-width: 330px;
}

img {
  display: block;
  justify-self: center;
  box-shadow:
    0 0 0 1px rgb(33 30 26 / 0.16),
    0 2px 8px rgb(33 30 26 / 0.16);
}

.line {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 6px;
  font-size: var(--text-1);
}

.ways {
  justify-content: center;
}

.ways > span {
  min-width: 110px;
  text-align: center;
}

.left {
  max-width: 240px;
  font-size: var(--text-1);
}

.strip > .act {
  justify-self: start;
}
</style>
