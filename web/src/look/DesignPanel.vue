<script setup lang="ts">
import { Search } from '@lucide/vue'
import { ElInput } from 'element-plus'
import { computed, ref, watch } from 'vue'
import { api } from '../api/client'
import { useNewest } from '../api/newest'
import type { DesignCard } from '../generated/types'
import ChooserPanel from '../parts/ChooserPanel.vue'
import { useBench } from '../stores/bench'
import { useNotices } from '../stores/notices'

/** Other designs with the words and pictures of this job in them: pointing at one shows it on the sheet, pressing takes it. */
const bench = useBench()
const notices = useNotices()
const designs = ref<DesignCard[]>([])
const wanted = ref('')

const find = useNewest(
  () => api.designs([bench.piece?.place ?? ''].filter(Boolean), wanted.value),
  (answer) => {
    designs.value = answer
  },
  notices.report,
)
watch(wanted, find, { immediate: true })

const ratio = computed(() => (bench.piece ? bench.piece.format.size.w / bench.piece.format.size.h : 1))

async function take(design: DesignCard) {
  if (await bench.act({ act: 'redesign', design: design.id }))
    notices.say(`The job is set as “${design.name}”. What you added by hand is still there.`, {
      action: { label: 'Undo', run: () => void bench.act({ act: 'undo' }) },
    })
}
</script>

<template>
  <ChooserPanel title="Another design">
    <ElInput
      v-model="wanted"
      aria-label="Find a design by its use"
      placeholder="market, card, calm"
      :prefix-icon="Search"
      clearable
      @keydown.stop />
    <ul :class="{ wide: ratio > 1.4 }">
      <li v-for="design in designs" :key="design.id">
        <button :data-design="design.id" @pointerenter="bench.tryOut({ act: 'redesign', design: design.id })" @click="take(design)">
          <img
            class="checks"
            loading="lazy"
            :style="{ aspectRatio: String(ratio) }"
            :src="api.redesigned(bench.job!.id, design.id, bench.piece!.id, 256, bench.revision)"
            :alt="`${design.name} with what this job says`" />
          <b>{{ design.name }}</b>
        </button>
      </li>
    </ul>
    <p v-if="!designs.length && wanted" class="quiet">No design is found by that. Try what it is for: market, card, mark.</p>
  </ChooserPanel>
</template>

<style scoped>
ul {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 14px 10px;
  align-items: end;
  margin-top: 12px;
}

ul.wide {
  grid-template-columns: 1fr;
}

button {
  display: grid;
  gap: 4px;
  width: 100%;
  text-align: left;
}

img {
  display: block;
  width: 100%;
  box-shadow: 0 0 0 1px rgb(33 30 26 / 0.16);
}

button:hover img {
  box-shadow: 0 0 0 2px var(--ink);
}

b {
  font-weight: 500;
  font-size: var(--text-1);
}
</style>
