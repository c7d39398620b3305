<script setup lang="ts">
import { X } from '@lucide/vue'
import { useElementSize } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import WallSheet from '../adapt/WallSheet.vue'
import { useBench } from '../stores/bench'
import { useNotices } from '../stores/notices'

/** Another size of the same message beside the one being worked on. A press on it goes over to it, and the two change places. */
const bench = useBench()
const notices = useNotices()
const piece = computed(() => bench.job?.pieces.find((one) => one.id === bench.beside) ?? null)

watch(() => bench.piece?.id, (now, before) => { if (now && now === bench.beside) bench.beside = before ?? null })

const room = ref<HTMLElement>()
const { width, height } = useElementSize(room)
const box = computed(() => {
  if (!piece.value) return { width: 1, height: 1 }
  const { w, h } = piece.value.format.size
  const count = piece.value.sides.length
  const wide = Math.max(Math.min((width.value - 6 * (count - 1)) / count, ((height.value - 40) * w) / h), 40)
  return { width: wide, height: (wide * h) / w }
})

async function refresh() {
  const [own, like] = [piece.value, bench.piece]
  if (!own || !like) return
  if (await bench.act({ act: 'arrangeLike', pieces: [own.id], like: like.id })) notices.say(`“${own.name}” is arranged like “${like.name}”. What was placed by hand stayed.`, { action: { label: 'Undo', run: () => void bench.act({ act: 'undo' }) } })
}
</script>

<template>
  <section v-if="piece" class="beside" :aria-label="`Beside: ${piece.name}`">
    <header>
      <button class="act" data-tip="Arranges it like the one on the stage; what was placed by hand there stays" @click="refresh">Arrange it like this one</button>
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

.room {
  display: grid;
  align-content: center;
  justify-content: center;
  min-width: 0;
  min-height: 0;
  overflow: hidden;
}
</style>
