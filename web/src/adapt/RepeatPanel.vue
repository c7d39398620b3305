<script setup lang="ts">
import { Hand } from '@lucide/vue'
import { ElCheckbox } from 'element-plus'
import { computed, ref, watch } from 'vue'
import { api } from '../api/client'
import type { Piece, RepeatCard } from '../generated/types'
import ChooserPanel from '../parts/ChooserPanel.vue'
import { useBench } from '../stores/bench'
import { useNotices } from '../stores/notices'

/** The last move as it would look in the other sizes in which it means the same. What a hand placed there is left out unless it is wanted. */
const bench = useBench()
const notices = useNotices()
const found = ref<RepeatCard[] | null>(null)
const wanted = ref<string[]>([])

watch(
  () => [bench.job?.id, bench.revision],
  async () => {
    // What was found of another state means nothing any more.
    found.value = null
    if (!bench.job) return
    const mine = bench.revision
    const now = await api.repeats(bench.job.id).catch((error) => {
      notices.report(error)
      return []
    })
    if (mine !== bench.revision) return
    found.value = now
    wanted.value = now.filter((one) => !one.byHand).map((one) => one.piece)
  },
  { immediate: true },
)

const pieces = computed(() =>
  (found.value ?? []).flatMap((one) => {
    const piece = bench.job?.pieces.find((other) => other.id === one.piece)
    return piece ? [{ piece, byHand: one.byHand }] : []
  }),
)
const ratio = (piece: Piece) => piece.format.size.w / piece.format.size.h

function toggle(id: string, on: boolean) {
  wanted.value = on ? [...wanted.value, id] : wanted.value.filter((other) => other !== id)
}

async function take() {
  const count = wanted.value.length
  if (!(await bench.act({ act: 'repeatMove', pieces: wanted.value }))) return
  bench.chooser = null
  notices.say(`Moved in ${count} other ${count === 1 ? 'size' : 'sizes'} too.`, {
    action: { label: 'Undo', run: () => void bench.act({ act: 'undo' }) },
  })
}
</script>

<template>
  <ChooserPanel title="The same in others">
    <p v-if="found && !pieces.length" class="quiet">The last thing done was no move, or it means nothing in the other sizes.</p>
    <template v-else-if="found">
      <ul>
        <li v-for="{ piece, byHand } in pieces" :key="piece.id" :data-repeat="piece.name">
          <img
            class="checks"
            :style="{ aspectRatio: String(ratio(piece)), width: `min(100%, ${Math.round(170 * ratio(piece))}px)` }"
            :src="api.repeated(bench.job!.id, piece.id, 320, bench.revision)"
            :alt="`${piece.name} as it would be`" />
          <ElCheckbox :model-value="wanted.includes(piece.id)" @update:model-value="toggle(piece.id, Boolean($event))">{{
            piece.name
          }}</ElCheckbox>
          <p v-if="byHand" class="quiet"><Hand :size="12" /> was placed by hand there</p>
        </li>
      </ul>
      <button class="act next" :disabled="!wanted.length" @click="take">
        {{ wanted.length === 1 ? 'Move it in this one' : `Move it in these ${wanted.length}` }}
      </button>
    </template>
  </ChooserPanel>
</template>

<style scoped>
ul {
  display: grid;
  gap: 14px;
  margin-bottom: 14px;
}

li {
  display: grid;
  gap: 2px;
}

img {
  display: block;
  box-shadow: 0 0 0 1px rgb(33 30 26 / 0.16);
}

p {
  display: flex;
  align-items: center;
  gap: 4px;
  font-size: var(--text-1);
}
</style>
