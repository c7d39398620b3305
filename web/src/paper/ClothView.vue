<script setup lang="ts">
import { ElRadioButton, ElRadioGroup } from 'element-plus'
import { computed, ref, watch } from 'vue'
import { api } from '../api/client'
import BackLink from '../hand-over/BackLink.vue'
import HandFrame from '../hand-over/HandFrame.vue'
import type { ClothCard, Good } from '../generated/types'
import ChoiceField from '../parts/ChoiceField.vue'
import { useBench } from '../stores/bench'
import { useNotices } from '../stores/notices'
import { useOpenJob } from '../stores/use-open-job'

/** Artwork on cloth and things: how it shows on each colour, and what a printer would send back. */
const props = defineProps<{ job: string }>()
const bench = useBench()
const notices = useNotices()

const goods = ref<Good[]>([])
const good = ref('tee')
const area = ref(0)
const colour = ref<string | null>(null)
const side = ref<string | null>(null)

useOpenJob(
  () => props.job,
  async () => {
    const clear = bench.job?.pieces.flatMap((piece) => piece.sides).find((other) => !other.ground)
    side.value ??= clear?.id ?? bench.sideId
    if (!goods.value.length)
      goods.value = await api.goods().catch((error) => {
        notices.report(error)
        return []
      })
  },
)
const own = computed(() => goods.value.find((other) => other.id === good.value) ?? null)
const shown = computed(() => colour.value ?? own.value?.colours[0] ?? '#ffffff')
const sides = computed(() =>
  (bench.job?.pieces ?? []).flatMap((piece) =>
    piece.sides.map((one) => ({ value: one.id, name: piece.sides.length > 1 ? `${piece.name}, ${one.name}` : piece.name })),
  ),
)
const of = computed(() => ({ good: good.value, area: area.value, colour: shown.value }))
const take = (id: string) => {
  good.value = id
  area.value = 0
  colour.value = null
}

const cards = ref<Record<string, ClothCard>>({})
watch(
  () => [side.value, good.value, area.value, bench.revision, own.value?.id],
  async () => {
    if (!side.value || !own.value) return
    const asked = { good: good.value, area: area.value }
    const all = await Promise.all(
      own.value.colours.map(
        async (tone) => [tone, await api.worn(props.job, side.value!, { ...asked, colour: tone }).catch(() => null)] as const,
      ),
    )
    cards.value = Object.fromEntries(all.filter((entry): entry is [string, ClothCard] => entry[1] !== null))
  },
  { immediate: true },
)
const card = computed(() => cards.value[shown.value] ?? null)
</script>

<template>
  <HandFrame way="cloth" :job="job" columns="340px minmax(0, 1fr)">
    <template v-if="bench.job && own && side">
      <section class="wish scroll" aria-labelledby="cloth">
        <h1 id="cloth">On cloth and things</h1>
        <ChoiceField label="Artwork" :value="side" :choices="sides" data-field="artwork" @done="side = $event" />
        <ChoiceField
          label="On"
          :value="good"
          :choices="goods.map((other) => ({ value: other.id, name: other.name }))"
          data-field="good"
          @done="take" />
        <ElRadioGroup v-if="own.areas.length > 1" v-model="area" size="small" aria-label="Where on it"
          ><ElRadioButton v-for="(entry, at) in own.areas" :key="entry.name" :value="at">{{ entry.name }}</ElRadioButton></ElRadioGroup
        >
        <h2>Colours</h2>
        <ul class="colours">
          <li v-for="tone in own.colours" :key="tone">
            <button
              :aria-pressed="tone === shown"
              :aria-label="cards[tone] ? `${Math.round(cards[tone]!.seen * 100)} % seen on ${tone}` : `On ${tone}`"
              :data-cloth="tone"
              @click="colour = tone">
              <i :style="{ background: tone }" /><span>{{ cards[tone] ? `${Math.round(cards[tone]!.seen * 100)} % seen` : '' }}</span>
            </button>
          </li>
        </ul>
        <template v-if="card">
          <p data-fine>{{ card.fine }}</p>
          <ul v-if="card.says.length" class="says">
            <li v-for="says in card.says" :key="says">{{ says }}</li>
          </ul>
          <p v-else class="quiet">Nothing a printer would send back.</p>
        </template>
        <p class="quiet">For the printer take a PNG without its ground at its own size, or SVG where vectors are asked for, under Files.</p>
        <BackLink class="back" :job="job" />
      </section>
      <section class="worn" aria-label="The artwork on it">
        <img
          :src="api.wornPicture(job, side, of, 1100, bench.revision)"
          :alt="`${own.name} with the artwork`"
          :style="{ aspectRatio: `${own.view[0]} / ${own.view[1]}` }" />
      </section>
    </template>
  </HandFrame>
</template>

<style scoped>
.wish {
  display: flex;
  flex-direction: column;
  gap: 10px;
  padding: 20px 20px;
  background: var(--paper);
  border-right: 1px solid var(--rule);
}

.colours {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 6px;
}

.colours button {
  display: grid;
  width: 100%;
  gap: 4px;
  padding: 5px;
  border: 1px solid var(--rule);
  border-radius: 3px;
  font-size: var(--text-1);
  text-align: left;
}

.colours [aria-pressed='true'] {
  border-color: var(--ink);
  box-shadow: inset 0 0 0 1px var(--ink);
}

.colours i {
  height: 26px;
  border-radius: 2px;
  border: 1px solid rgb(0 0 0 / 0.12);
}

.says {
  display: grid;
  gap: 6px;
  padding: 8px 12px;
  border-left: 3px solid var(--madder);
  background: var(--paper-2);
}

.worn {
  display: grid;
  grid-template-rows: minmax(0, 1fr);
  place-items: center;
  min-height: 0;
  padding: 16px;
  background: #e4e1da;
}

.worn img {
  max-height: 100%;
  max-width: 100%;
  min-height: 0;
}

.back {
  margin-top: auto;
}
</style>
