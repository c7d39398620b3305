<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api } from '../api/client'
import type { ProofCard } from '../generated/types'
import ChoiceField from '../parts/ChoiceField.vue'
import { useBench } from '../stores/bench'

/** A side as it is seen and as it is printed, side by side, and what becomes of its colours. */
const props = defineProps<{ side: string | null }>()
const bench = useBench()

const chosen = ref<string | null>(null)
const sides = computed(() =>
  (bench.job?.pieces ?? []).flatMap((piece) =>
    piece.sides.map((side) => ({ value: side.id, name: piece.sides.length > 1 ? `${piece.name}, ${side.name}` : piece.name })),
  ),
)
const paper = computed(() => bench.job?.pieces.find((piece) => piece.format.unit !== 'px')?.sides[0]?.id ?? null)
const side = computed(() => chosen.value ?? paper.value ?? props.side ?? sides.value[0]?.value ?? null)
const card = ref<ProofCard | null>(null)
watch(
  () => [side.value, bench.revision],
  async () => {
    card.value = bench.job && side.value ? await api.proof(bench.job.id, side.value).catch(() => null) : null
  },
  { immediate: true },
)
const inks = (share: number[]) => ['C', 'M', 'Y', 'K'].map((ink, i) => `${ink} ${share[i]}`).join('  ')
</script>

<template>
  <section v-if="bench.job && side" class="proof" aria-label="As printed">
    <div class="pair">
      <figure>
        <img :src="api.sheetPicture(bench.job.id, side, 700, bench.revision)" alt="" />
        <figcaption>As it is seen</figcaption>
      </figure>
      <figure>
        <img :src="api.proofPicture(bench.job.id, side, 700, bench.revision)" alt="" />
        <figcaption>As it is printed</figcaption>
      </figure>
    </div>
    <div v-if="card" class="figures">
      <ChoiceField label="Side" hide-label :value="side" :choices="sides" @done="chosen = $event" />
      <p>
        <b>{{ card.dull < 0.005 ? 'Nothing prints much duller.' : `${Math.round(card.dull * 100)} % of it prints much duller.` }}</b> At
        most {{ card.most_ink }} % of ink; the paper takes {{ card.limit }} %.
      </p>
      <p class="quiet">{{ card.says }}</p>
      <p v-for="picture in card.pictures.slice(0, 2)" :key="picture.name">
        “{{ picture.name }}” has {{ picture.ppi }} pixels an inch: sharp up to {{ picture.holds[0] }} mm wide, good up to
        {{ picture.holds[1] }} mm.
      </p>
      <p v-if="card.through">{{ card.through }}</p>
      <table>
        <thead>
          <tr>
            <th>Seen</th>
            <th>Printed</th>
            <th>ΔE</th>
            <th>Inks, %</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="colour in card.colours.slice(0, 8)" :key="colour.seen" :class="{ far: colour.dull }">
            <td><i :style="{ background: colour.seen }" />{{ colour.name ?? colour.seen }}</td>
            <td><i :style="{ background: colour.printed }" />{{ colour.printed }}</td>
            <td>{{ colour.off.toFixed(1) }}</td>
            <td class="inks">{{ inks(colour.inks) }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>

<style scoped>
.proof {
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
  min-height: 0;
  background: var(--stage);
}

.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 20px;
  padding: 28px 28px 12px;
  min-height: 0;
}

figure {
  display: flex;
  flex-direction: column;
  align-items: center;
  justify-content: center;
  gap: 10px;
  margin: 0;
  min-height: 0;
  min-width: 0;
}

figure img {
  max-width: 100%;
  max-height: 100%;
  min-height: 0;
  object-fit: contain;
  box-shadow: 0 1px 8px rgb(0 0 0 / 0.3);
}

figcaption {
  padding: 2px 10px;
  border-radius: 3px;
  background: var(--paper);
}

.figures {
  display: grid;
  gap: 6px;
  padding: 12px 20px 16px;
  background: var(--paper);
  border-top: 1px solid var(--rule);
}

.figures > :first-child {
  max-width: 260px;
}

table {
  border-collapse: collapse;
  font-size: var(--text-1);
}

th {
  text-align: left;
  font-weight: 600;
  color: var(--ink-3);
}

td,
th {
  padding: 2px 18px 2px 0;
}

td i {
  display: inline-block;
  width: 22px;
  height: 12px;
  margin-right: 8px;
  vertical-align: -1px;
  border: 1px solid var(--rule-strong);
}

.far td:nth-child(3) {
  color: var(--madder-deep);
  font-weight: 650;
}

.inks {
  white-space: pre;
}
</style>
