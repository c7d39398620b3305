<script setup lang="ts">
import { X } from '@lucide/vue'
import { useElementSize } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import WallSheet from '../adapt/WallSheet.vue'
import { useBench } from '../stores/bench'
import { useNotices } from '../stores/notices'

/** Another size of the same message beside the one being worked on: a press on it goes over to it, and the two change places. Or all
 * sides of the one being worked on, each the right way up. */
const bench = useBench()
const notices = useNotices()
const piece = computed(() => bench.job?.pieces.find((one) => one.id === bench.beside) ?? null)

const own = computed(() => bench.beside === bench.piece?.id)

watch(
  () => bench.piece?.id,
  (now, before) => {
    // Sides are those of the piece on the stage, whichever that is.
    if (bench.beside === before) bench.beside = now ?? null
    else if (now && now === bench.beside) bench.beside = before ?? null
  },
)

const room = ref<HTMLElement>()
const { width, height } = useElementSize(room)
const box = computed(() => {
  if (!piece.value) return { width: 1, height: 1 }
  const { w, h } = piece.value.format.size
  const count = piece.value.sides.length
  const wide = Math.max(Math.min((width.value - 6 * (count - 1)) / count, ((height.value - 56) * w) / h), 40)
  return { width: wide, height: (wide * h) / w }
})

async function refresh() {
  const [other, like] = [piece.value, bench.piece]
  if (!other || !like) return
  if (await bench.act({ act: 'arrangeLike', pieces: [other.id], like: like.id }))
    notices.say(`“${other.name}” is arranged like “${like.name}”. What was placed by hand stayed.`, {
      action: { label: 'Undo', run: () => void bench.act({ act: 'undo' }) },
    })
}
</script>

<template>
  <section v-if="piece" class="beside" :aria-label="own ? `All sides of ${piece.name}` : `Beside: ${piece.name}`">
    <header>
      <span v-if="own" class="what">{{ piece.sides.map((side) => side.name).join(', ') }}</span>
      <button v-else class="act" data-tip="Arranges it like the one on the stage; what was placed by hand there stays" @click="refresh">
        Arrange it like this one
      </button>
      <button class="tool" aria-label="Close what is beside" @click="bench.beside = null"><X :size="15" /></button>
    </header>
    <div ref="room" class="room"><WallSheet :piece="piece" :box="box" :findings="[]" /></div>
  </section>
</template>

<style scoped>
.beside {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  gap: 10px;
  padding: 8px 12px;
  background: var(--stage);
  border-left: 1px solid var(--rule);
}

header {
  display: flex;
  align-items: center;
  justify-content: space-between;
}

.what,
.room :deep(.quiet) {
  font-size: var(--text-1);
  color: var(--ink);
}

.room {
  display: grid;
  align-content: center;
  justify-content: center;
  min-width: 0;
  min-height: 0;
  padding: 8px;
  overflow: hidden;
}
</style>
