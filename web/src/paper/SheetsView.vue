<script setup lang="ts">
import { FileDown, ScrollText } from '@lucide/vue'
import { ElCheckbox } from 'element-plus'
import { useDebounceFn } from '@vueuse/core'
import { computed, onUnmounted, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { ApiProblem, api } from '../api/client'
import BackLink from '../hand-over/BackLink.vue'
import HandFrame from '../hand-over/HandFrame.vue'
import WorkLine from '../hand-over/WorkLine.vue'
import { useWork } from '../hand-over/use-work'
import type { FittedSize, ListCard, Piece, PlanCard, PrintWish, SheetSetup, SheetStart } from '../generated/types'
import { showFormat } from '../measures'
import FoldGroup from '../parts/FoldGroup.vue'
import NumberField from '../parts/NumberField.vue'
import { useBench } from '../stores/bench'
import { useNotices } from '../stores/notices'
import { useOpenJob } from '../stores/use-open-job'
import SetupFields from './SetupFields.vue'
import SheetFace from './SheetFace.vue'

/** Pieces on sheets of paper: what is laid how, the sheet as it will be printed, and how it is printed and cut. */
const props = defineProps<{ job: string }>()
const bench = useBench()
const notices = useNotices()
const route = useRoute()

const chosen = ref<string[]>([])
/** How many of each; 0 fills a sheet. */
const counts = ref<Record<string, number>>({})
const start = ref<SheetStart | null>(null)
const setup = ref<SheetSetup | null>(null)
const list = ref<ListCard | null>(null)
const fromList = ref(route.query['list'] === '1')

const pieces = computed(() => (bench.job?.pieces ?? []).filter((piece) => piece.format.unit !== 'px' || chosen.value.includes(piece.id)))
const onScreen = computed(() => (bench.job?.pieces ?? []).length - pieces.value.length)

async function begin(piece: Piece) {
  chosen.value = [piece.id]
  start.value = await api.sheetStart(props.job, piece.id).catch((error) => {
    notices.report(error)
    return null
  })
  setup.value = start.value?.setup ?? null
}

useOpenJob(
  () => props.job,
  () => {
    if (chosen.value.length) return
    const own = bench.piece?.format.unit !== 'px' ? bench.piece : undefined
    const piece = own ?? bench.job?.pieces.find((other) => other.format.unit !== 'px') ?? bench.job?.pieces[0]
    if (piece) void begin(piece)
  },
)

watch(
  () => [chosen.value[0], bench.revision],
  async () => {
    const piece = chosen.value[0]
    list.value = piece ? await api.list(props.job, piece).catch(() => null) : null
    if (!list.value) fromList.value = false
  },
)

const wish = computed<PrintWish | null>(() => {
  if (!setup.value || !chosen.value.length) return null
  const of = (piece: string) => ({ piece, ...(counts.value[piece] ? { count: counts.value[piece] } : {}) })
  return { pieces: chosen.value.map(of), setup: setup.value, ...(fromList.value ? { list: true } : {}) }
})

const plan = ref<PlanCard | null>(null)
const refused = ref('')
const face = ref(0)
const step = ref<number | null>(null)
const picture = ref<string | null>(null)
let asked = 0

const look = useDebounceFn(async () => {
  if (!wish.value) return
  const mine = ++asked
  try {
    const card = await api.planSheets(props.job, wish.value)
    if (mine !== asked) return
    plan.value = card
    refused.value = ''
    face.value = Math.min(face.value, card.faces - 1)
    await draw(mine)
  } catch (error) {
    if (mine !== asked) return
    plan.value = null
    refused.value = error instanceof ApiProblem ? error.message : String(error)
  }
}, 120)
watch(() => [wish.value, bench.revision], look, { deep: true, immediate: true })

async function draw(mine: number) {
  if (!wish.value) return
  const drawn = await api.sheetFace(props.job, wish.value, face.value, 1200).catch(() => null)
  if (mine !== asked || !drawn) return
  const old = picture.value
  picture.value = URL.createObjectURL(drawn)
  if (old) setTimeout(() => URL.revokeObjectURL(old), 1000)
}
watch(face, () => void draw(asked))
onUnmounted(() => {
  if (picture.value) URL.revokeObjectURL(picture.value)
})

function toggle(piece: Piece) {
  if (chosen.value.includes(piece.id)) chosen.value = chosen.value.length > 1 ? chosen.value.filter((id) => id !== piece.id) : chosen.value
  else if (setup.value?.kind.kind === 'fill') chosen.value = [...chosen.value, piece.id]
  else chosen.value = [piece.id]
}

/** The size of the piece, worked out from how many shall fit. */
const shall = ref({ across: 0, down: 0 })
const fitted = ref<FittedSize | null>(null)
watch(
  () => [shall.value, wish.value],
  async () => {
    fitted.value = null
    if (wish.value && shall.value.across && shall.value.down)
      fitted.value = await api.fittedSize(props.job, wish.value, shall.value.across, shall.value.down).catch((error) => {
        notices.report(error)
        return null
      })
  },
  { deep: true },
)
async function resize() {
  const piece = chosen.value[0]
  if (piece && fitted.value && (await bench.act({ act: 'changeFormat', piece, place: fitted.value.typed })))
    shall.value = { across: 0, down: 0 }
}

const work = useWork(api.printed, () => 'The sheets were handed over.')
const print = () => {
  const now = wish.value
  if (now) void work.begin(() => api.printSheets(props.job, now))
}
async function guide() {
  if (!wish.value) return
  const file = await api.sheetGuide(props.job, wish.value).catch((error) => {
    notices.report(error)
    return null
  })
  if (!file) return
  const link = document.createElement('a')
  link.href = URL.createObjectURL(file)
  link.download = 'how-to-print.pdf'
  link.click()
  setTimeout(() => URL.revokeObjectURL(link.href), 5000)
}

const faceName = computed(() => {
  if (!plan.value) return ''
  const sheet = plan.value.backs ? Math.floor(face.value / 2) + 1 : face.value + 1
  const side = plan.value.backs ? (face.value % 2 ? ', back' : ', front') : ''
  return `Sheet ${sheet} of ${plan.value.sheets}${side}`
})
const money = (hundredths: number) => (hundredths / 100).toFixed(2)
</script>

<template>
  <HandFrame way="sheets" :job="job" columns="300px minmax(0, 1fr) 300px">
    <template v-if="bench.job">
      <section class="setup scroll" aria-labelledby="laid">
        <h1 id="laid">What is laid on sheets</h1>
        <ul class="pieces">
          <li v-for="piece in pieces" :key="piece.id">
            <ElCheckbox :model-value="chosen.includes(piece.id)" :data-piece="piece.name" @update:model-value="toggle(piece)"
              ><b>{{ piece.name }}</b> <span class="quiet">{{ showFormat(piece.format) }}</span></ElCheckbox
            >
            <label v-if="chosen.includes(piece.id) && !fromList" class="count"
              ><span>Copies</span
              ><NumberField
                :label="`Copies of ${piece.name}`"
                :value="counts[piece.id] ?? 0"
                :least="0"
                :most="50000"
                whole
                @done="counts = { ...counts, [piece.id]: $event }" /><span class="quiet">{{
                counts[piece.id] ? '' : 'fill a sheet'
              }}</span></label
            >
          </li>
        </ul>
        <p v-if="onScreen && !pieces.length" class="quiet">The pieces of this job are for screens. Add a size on paper under Sizes.</p>
        <ElCheckbox v-if="list" v-model="fromList" :label="`One for each row of ${list.name || 'its list'} (${list.good})`" />
        <SetupFields
          v-if="setup && start"
          v-model="setup"
          :start="start"
          :piece="pieces.find((piece) => piece.id === chosen[0]) ?? null"
          @kept="start = { ...start, kept: $event }" />
      </section>
      <section class="stage" aria-label="The sheet">
        <p v-if="refused" class="refused" role="alert">{{ refused }}</p>
        <template v-else-if="plan">
          <SheetFace :plan="plan" :picture="picture" :face="face" :step="step" />
          <div v-if="plan.faces > 1" class="turn">
            <button class="tool" aria-label="Face before" :disabled="face === 0" @click="face -= 1">‹</button>
            <span data-face>{{ faceName }}</span>
            <button class="tool" aria-label="Next face" :disabled="face + 1 >= plan.faces" @click="face += 1">›</button>
          </div>
        </template>
      </section>
      <section v-if="plan && !refused" class="plan scroll" aria-labelledby="comes">
        <h2 id="comes" data-plan>{{ plan.says }}</h2>
        <dl>
          <dt>On a sheet</dt>
          <dd data-up>{{ plan.up }}</dd>
          <dt>Cut away</dt>
          <dd>{{ Math.round(plan.waste * 100) }} %</dd>
          <template v-if="plan.cost !== undefined"
            ><dt>Paper costs</dt>
            <dd>{{ money(plan.cost) }}</dd></template
          >
        </dl>
        <ul v-if="plan.notes.length" class="notes">
          <li v-for="says in plan.notes" :key="says">{{ says }}</li>
        </ul>
        <ul v-if="plan.tight.length" class="tight">
          <li v-for="way in plan.tight" :key="way.says">
            <span>{{ way.says }}</span><button class="link" @click="setup = { ...setup!, scale: way.scale }">Scale to it</button>
          </li>
        </ul>
        <FoldGroup
          v-if="setup?.kind.kind === 'fill' && chosen.length === 1"
          name="sheet-size"
          title="A size of which so many fit"
          :says="fitted?.typed ?? ''">
          <div class="shall">
            <label
              ><span>Across</span
              ><NumberField
                label="How many across"
                :value="shall.across"
                :least="0"
                :most="100"
                whole
                @done="shall = { ...shall, across: $event }" /></label
            ><label
              ><span>Down</span
              ><NumberField
                label="How many down"
                :value="shall.down"
                :least="0"
                :most="100"
                whole
                @done="shall = { ...shall, down: $event }"
            /></label>
          </div>
          <p v-if="fitted">{{ fitted.says }} <button class="link" @click="resize">Make the piece that size</button></p>
        </FoldGroup>
        <h3>Printing</h3>
        <ul class="plain">
          <li v-for="says in plan.instructions" :key="says">{{ says }}</li>
        </ul>
        <template v-if="plan.steps.length">
          <h3>Cutting</h3>
          <ol class="steps" @pointerleave="step = null">
            <li v-for="(entry, at) in plan.steps" :key="at" tabindex="0" @pointerenter="step = at" @focus="step = at" @blur="step = null">
              {{ entry.says }}
            </li>
          </ol>
        </template>
        <div class="deeds">
          <WorkLine v-if="work.busy.value && work.state.value" :state="work.state.value" what="sides" @give-up="work.giveUp" />
          <button class="act next go" :disabled="work.busy.value" @click="print"><FileDown :size="16" />Write the sheets as PDF</button>
          <button class="act go" @click="guide"><ScrollText :size="16" />How to print it, with a test sheet</button>
          <BackLink class="back" :job="job" />
        </div>
      </section>
      <section v-else class="plan" />
    </template>
  </HandFrame>
</template>

<style scoped>
section {
  padding: 18px 16px;
  min-height: 0;
}

.setup {
  display: flex;
  flex-direction: column;
  gap: 12px;
  border-right: 1px solid var(--rule);
  background: var(--paper);
}

.plan {
  display: flex;
  flex-direction: column;
  gap: 10px;
  border-left: 1px solid var(--rule);
  background: var(--paper);
}

.pieces {
  display: grid;
  gap: 6px;
}

.pieces :deep(.el-checkbox) {
  height: auto;
  margin: 0;
  white-space: normal;
}

.count {
  display: grid;
  grid-template-columns: auto 76px 1fr;
  align-items: center;
  gap: 8px;
  margin: 2px 0 4px 22px;
  font-size: var(--text-1);
  color: var(--ink-3);
}

.stage {
  display: flex;
  flex-direction: column;
  align-items: center;
  justify-content: center;
  gap: 10px;
  background: var(--stage);
}

.turn {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 2px 10px;
  border-radius: 4px;
  background: var(--paper);
}

.refused {
  max-width: 420px;
  padding: 12px 16px;
  border-left: 3px solid var(--madder);
  background: var(--paper);
}

dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 2px 14px;
}

dt {
  color: var(--ink-3);
}

dd {
  font-weight: 600;
}

.notes li,
.plain li {
  margin-bottom: 4px;
}

.notes {
  color: var(--ink-2);
}

.tight li {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
  align-items: baseline;
  color: var(--ink-2);
}

.shall {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
}

.shall label {
  display: grid;
  grid-template-columns: auto 1fr;
  align-items: center;
  gap: 8px;
  font-size: var(--text-1);
  color: var(--ink-3);
}

.steps {
  display: grid;
  gap: 2px;
  counter-reset: step;
}

.steps li {
  padding: 4px 6px 4px 26px;
  position: relative;
  border-radius: 3px;
  counter-increment: step;
}

.steps li::before {
  content: counter(step);
  position: absolute;
  left: 6px;
  color: var(--ink-3);
}

.steps li:hover,
.steps li:focus {
  background: var(--paper-3);
}

/* What is done in the end stays in sight, however much is said above. */
.deeds {
  position: sticky;
  bottom: -18px;
  display: grid;
  gap: 8px;
  margin: auto -16px -18px;
  padding: 8px 16px 18px;
  background: var(--paper);
}

.go {
  height: 36px;
}
</style>
