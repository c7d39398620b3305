<script setup lang="ts">
import { ElMessageBox, ElRadioButton, ElRadioGroup } from 'element-plus'
import { useDebounceFn } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api } from '../api/client'
import BenchBar from '../bench/BenchBar.vue'
import type { Checked } from '../generated/types'
import FoldGroup from '../parts/FoldGroup.vue'
import { useBench } from '../stores/bench'
import { useLive } from '../stores/live'
import { useNotices } from '../stores/notices'
import { useOpenJob } from '../stores/use-open-job'
import ProofSheet from './ProofSheet.vue'
import SeenSmall from './SeenSmall.vue'

/** What should be looked at before the job leaves, worst first, each with where it is and what would put it right. */
const props = defineProps<{ job: string }>()
const bench = useBench()
const live = useLive()
const notices = useNotices()
const router = useRouter()

useOpenJob(() => props.job)

const view = ref<'findings' | 'small' | 'printed'>('findings')
const found = ref<Checked[] | null>(null)
const look = useDebounceFn(async () => {
  if (!bench.job) return
  const mine = bench.revision
  const now = await api.check(bench.job.id).catch(() => null)
  if (now && mine === bench.revision) found.value = now
}, 120)
watch(() => [bench.job?.id, bench.revision], look, { immediate: true })

/** Files larger than their places take: they are made for it, once hands rest. */
const large = ref<Checked[]>([])
const lookAtFiles = useDebounceFn(async () => {
  if (!bench.job) return
  const mine = bench.revision
  const now = await api.checkFiles(bench.job.id).catch(() => null)
  if (now && mine === bench.revision) large.value = now
}, 1200)
watch(() => [bench.job?.id, bench.revision], lookAtFiles, { immediate: true })
const all = computed(() =>
  found.value
    ? [...found.value, ...large.value].toSorted((a, b) => Number(a.setAside !== null) - Number(b.setAside !== null) || b.weight - a.weight)
    : null,
)

const open = computed(() => all.value?.filter((one) => one.setAside === null) ?? [])
const aside = computed(() => all.value?.filter((one) => one.setAside !== null) ?? [])
const chosenKey = ref<string | null>(null)
const chosen = computed(() => all.value?.find((one) => one.key === chosenKey.value) ?? open.value[0] ?? null)

const piece = computed(() => bench.job?.pieces.find((one) => one.id === chosen.value?.finding.piece) ?? null)
const side = computed(() => piece.value?.sides.find((one) => one.id === chosen.value?.finding.side) ?? null)
const item = computed(() => side.value?.items.find((one) => one.id === chosen.value?.finding.item) ?? null)
const nameOf = (one: Checked) => bench.job?.pieces.find((p) => p.id === one.finding.piece)?.name ?? ''

const spot = computed(() => {
  if (!item.value || !piece.value) return null
  const { rect, turn } = item.value.place.at
  const { w, h } = piece.value.format.size
  const share = (length: number, whole: number) => `${(length / whole) * 100}%`
  return {
    left: share(rect.x, w),
    top: share(rect.y, h),
    width: share(rect.w, w),
    height: share(rect.h, h),
    transform: `rotate(${turn / 1_000_000}deg)`,
  }
})
const shape = computed(() => {
  if (!piece.value) return {}
  const ratio = piece.value.format.size.w / piece.value.format.size.h
  return { aspectRatio: String(ratio), width: `min(100%, calc((100vh - 190px) * ${ratio}))` }
})

async function mend(one: Checked) {
  const at = open.value.findIndex((other) => other.key === one.key)
  if (
    !(await bench.act({
      act: 'putRight',
      side: one.finding.side,
      ...(one.finding.item ? { item: one.finding.item } : {}),
      kind: one.finding.kind,
      says: one.finding.says,
    }))
  )
    return
  chosenKey.value = open.value[at + 1]?.key ?? null
}

async function letBe(one: Checked) {
  const answer = await ElMessageBox.prompt('It is said again when its cause changes.', 'Why may it stay?', {
    inputPattern: /\S/,
    inputErrorMessage: 'Give a reason, so that others know.',
    confirmButtonText: 'Let it be',
    cancelButtonText: 'Never mind',
  }).catch(() => null)
  if (answer) await bench.act({ act: 'setAside', finding: one.key, reason: answer.value.trim() })
}

/** A word that is right wherever it stands from now on. */
async function keepWord(one: Checked) {
  const word = one.finding.word
  if (!word) return
  try {
    await api.keepWord(word)
    await look()
    notices.say(`“${word}” is a word from now on, in every job.`, {
      action: { label: 'Undo', run: () => void api.letGo('words', word).then(look, notices.report) },
    })
  } catch (error) {
    notices.report(error)
  }
}

async function go(one: Checked) {
  await bench.show(one.finding.side)
  bench.selection = one.finding.item ? [one.finding.item] : []
  await router.push({
    name: 'bench',
    params: { job: props.job, step: one.finding.kind === 'emptyFrame' || one.finding.kind === 'missingPicture' ? 'pictures' : 'words' },
  })
}
/** Shows what was found by itself. */
function show(key: string) {
  chosenKey.value = key
  view.value = 'findings'
}
</script>

<template>
  <div class="check">
    <BenchBar step="check" :job="job" />
    <main v-if="bench.job">
      <section class="list scroll" aria-labelledby="check">
        <div class="head">
          <h1 id="check">
            {{
              found === null
                ? 'Looking'
                : open.length === 0
                  ? 'Nothing to mend'
                  : open.length === 1
                    ? 'One thing to look at'
                    : `${open.length} things to look at`
            }}
          </h1>
          <ElRadioGroup v-model="view" size="small" aria-label="What is shown">
            <ElRadioButton value="findings">Findings</ElRadioButton>
            <ElRadioButton value="small">Seen small</ElRadioButton>
            <ElRadioButton value="printed">As printed</ElRadioButton>
          </ElRadioGroup>
        </div>
        <p v-if="found && !open.length" class="quiet">Every size reads, fits and keeps clear of the edges. It can be handed over.</p>
        <ul>
          <li v-for="one in open" :key="one.key" :data-finding="one.finding.kind" :class="{ on: chosen?.key === one.key }">
            <button class="says" @click="show(one.key)">
              <b>{{ nameOf(one) }}</b><span>{{ one.finding.says }}</span>
            </button>
            <div class="deeds">
              <button v-if="one.repair" class="act" @click="mend(one)">{{ one.repair }}</button>
              <button v-if="one.finding.word" class="link" @click="keepWord(one)">It is a word</button>
              <button class="link" @click="go(one)">Go there</button>
              <button class="link" @click="letBe(one)">Let it be…</button>
            </div>
          </li>
        </ul>
        <FoldGroup v-if="aside.length" name="aside" title="Let be" :says="String(aside.length)">
          <ul>
            <li v-for="one in aside" :key="one.key" :data-aside="one.finding.kind">
              <button class="says" @click="show(one.key)">
                <b>{{ nameOf(one) }}</b><span>{{ one.finding.says }}</span>
              </button>
              <p class="quiet">
                {{ one.setAside }}
                <button class="link" @click="bench.act({ act: 'setAside', finding: one.key, reason: null })">Say it again</button>
              </p>
            </li>
          </ul>
        </FoldGroup>
      </section>
      <ProofSheet v-if="view === 'printed'" :side="side?.id ?? bench.sideId" />
      <section v-else-if="view === 'small' || (all && !chosen)" class="small scroll" aria-label="Seen small"><SeenSmall /></section>
      <section v-else class="there" :aria-label="piece ? `${piece.name}, where it is` : 'Where it is'">
        <div v-if="piece && side && chosen" class="sheet" :style="shape">
          <img
            :class="{ checks: !side.ground }"
            :src="api.sheetPicture(bench.job.id, side.id, 1024, `${bench.stamps[piece.id] ?? 0}-${live.faces}`)"
            :alt="piece.name" />
          <i v-if="spot" class="spot" :style="spot" />
        </div>
      </section>
    </main>
  </div>
</template>

<style scoped>
.check {
  height: 100%;
  display: grid;
  grid-template-rows: var(--bar) minmax(0, 1fr);
}

main {
  display: grid;
  grid-template-columns: 440px minmax(0, 1fr);
  min-height: 0;
}

.list {
  padding: 18px 20px 32px;
  background: var(--paper);
  border-right: 1px solid var(--rule);
}

.head {
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 8px 12px;
  margin-bottom: 12px;
}

.head :deep(.el-radio-group) {
  flex-wrap: nowrap;
}

.list ul {
  display: grid;
  gap: 4px;
  margin: 0 -10px 16px;
}

.list li {
  display: grid;
  gap: 6px;
  padding: 10px;
  border-radius: 3px;
}

.list li.on {
  background: var(--paper-3);
}

.says {
  display: grid;
  gap: 2px;
  text-align: left;
}

.says b {
  font-size: var(--text-1);
  color: var(--ink-2);
}

.deeds {
  display: flex;
  align-items: center;
  gap: 14px;
}

.there,
.small {
  display: grid;
  place-items: center;
  min-height: 0;
  padding: 32px;
  background: var(--stage);
}

/* What lies beyond the sheet is marked no farther than here. */
.there {
  overflow: clip;
}

.small {
  place-items: start;
}

.sheet {
  position: relative;
}

.sheet img {
  display: block;
  width: 100%;
  height: 100%;
}

.spot {
  position: absolute;
  outline: 2px dashed var(--mark-light);
  box-shadow: 0 0 0 2px var(--mark-dark);
  outline-offset: 3px;
}
</style>
