<script setup lang="ts">
import { ChevronLeft, ChevronRight, FileDown, FileUp, Printer } from '@lucide/vue'
import { ElInput, ElRadio, ElRadioGroup, ElUpload, type UploadRawFile } from 'element-plus'
import { computed, ref, watch } from 'vue'
import { api } from '../api/client'
import BackLink from '../hand-over/BackLink.vue'
import HandFrame from '../hand-over/HandFrame.vue'
import WorkLine from '../hand-over/WorkLine.vue'
import { useWork } from '../hand-over/use-work'
import type { Filling, ListCard } from '../generated/types'
import ChoiceField from '../parts/ChoiceField.vue'
import { useBench } from '../stores/bench'
import { useNotices } from '../stores/notices'
import { useOpenJob } from '../stores/use-open-job'

/** One piece for each row of a table: which column fills what, the rows one by one, those left out and why, and what becomes of them. */
const props = defineProps<{ job: string }>()
const bench = useBench()
const notices = useNotices()

const piece = ref<string | null>(null)
const card = ref<ListCard | null>(null)
const row = ref(0)
const pasted = ref('')
const stamp = ref(0)
const how = ref<'sheets' | 'pdf' | 'png'>('sheets')

useOpenJob(
  () => props.job,
  () => {
    piece.value ??= bench.piece?.id ?? bench.job?.pieces[0]?.id ?? null
  },
)
const own = computed(() => bench.job?.pieces.find((other) => other.id === piece.value) ?? null)
const choices = computed(() => (bench.job?.pieces ?? []).map((other) => ({ value: other.id, name: other.name })))

watch(
  () => [piece.value, bench.revision],
  async () => {
    card.value = piece.value ? await api.list(props.job, piece.value).catch(() => null) : null
    stamp.value += 1
    row.value = Math.min(row.value, Math.max(0, (card.value?.good ?? 1) - 1))
  },
  { immediate: true },
)

async function take(body: Blob | string, name: string) {
  if (!piece.value) return
  try {
    card.value = await api.takeList(props.job, piece.value, body, name)
    pasted.value = ''
    row.value = 0
    stamp.value += 1
  } catch (error) {
    notices.report(error)
  }
}
function upload(file: UploadRawFile) {
  void take(file, file.name)
  return false
}

async function match(column: number, value: string) {
  if (!card.value || !piece.value) return
  const rest = card.value.fillings.filter((filling) => filling.column !== column && `${filling.kin} ${filling.fills}` !== value)
  const field = card.value.fields.find((other) => `${other.kin} ${other.fills}` === value)
  const fillings: Filling[] = field ? [...rest, { column, kin: field.kin, fills: field.fills }] : rest
  card.value = await api.matchList(props.job, piece.value, fillings).catch((error) => {
    notices.report(error)
    return card.value
  })
  stamp.value += 1
}
const filled = (column: number) => {
  const filling = card.value?.fillings.find((own) => own.column === column)
  return filling ? `${filling.kin} ${filling.fills}` : 'none'
}
const fields = computed(() => [
  { value: 'none', name: 'Nothing' },
  ...(card.value?.fields ?? []).map((field) => ({ value: `${field.kin} ${field.fills}`, name: field.name })),
])

async function letGo() {
  if (!piece.value) return
  await api.dropList(props.job, piece.value).catch(notices.report)
  card.value = null
}

const work = useWork(api.printed, () => 'The files were handed over.')
function make() {
  const of = piece.value
  if (!of) return
  void work.begin(() => api.listFiles(props.job, of, { together: how.value === 'pdf', kind: how.value === 'png' ? 'png' : 'pdf' }))
}
const spilling = (line: number) => card.value?.spills.find((spill) => spill.line === line)
</script>

<template>
  <HandFrame way="list" :job="job" columns="300px minmax(0, 1fr) 300px">
    <template v-if="bench.job && own">
      <section class="columns scroll" aria-labelledby="list">
        <h1 id="list">One for each row</h1>
        <ChoiceField label="Piece" :value="own.id" :choices="choices" data-field="piece" @done="piece = $event" />
        <template v-if="card">
          <p class="file">
            <b>{{ card.name || 'A pasted table' }}</b><button class="link" @click="letGo">Another list</button>
          </p>
          <h2>What each column fills</h2>
          <ul class="match">
            <li v-for="(column, at) in card.columns" :key="at" :data-column="column.name">
              <b>{{ column.name }}</b><small class="quiet">{{ column.says.join(' · ') }}</small>
              <ChoiceField :label="`${column.name} fills`" hide-label :value="filled(at)" :choices="fields" @done="match(at, $event)" />
            </li>
          </ul>
        </template>
        <template v-else>
          <p class="quiet">
            A spreadsheet saved as CSV, or cells pasted here. The first row says what the columns are. Each row makes one piece: a card, a
            tag, a badge, a ticket.
          </p>
          <ElUpload drag :show-file-list="false" accept=".csv,.tsv,.txt,text/csv" :before-upload="upload" class="drop"
            ><FileUp :size="20" /><span>Choose the file, or drop it here</span></ElUpload
          >
          <ElInput
            v-model="pasted"
            type="textarea"
            :rows="5"
            placeholder="Name, Class&#10;Ines Vardal, Saturday"
            aria-label="Pasted table" />
          <button class="act" :disabled="!pasted.trim()" @click="take(pasted, '')">Take what was pasted</button>
        </template>
      </section>
      <section class="stage" aria-label="A row">
        <template v-if="card && card.good">
          <div class="sheets">
            <img
              v-for="(side, at) in own.sides"
              :key="side.id"
              :src="api.rowPicture(job, own.id, row, at, 900, `${stamp}-${bench.revision}`)"
              :alt="`${card.rows[row]?.says ?? ''}, ${side.name}`"
              :style="{ aspectRatio: `${own.format.size.w} / ${own.format.size.h}` }" />
          </div>
          <div class="turn">
            <button class="tool" aria-label="Row before" :disabled="row === 0" @click="row -= 1"><ChevronLeft :size="16" /></button>
            <span data-row
              >Row {{ row + 1 }} of {{ card.good }}<template v-if="card.rows[row]">: {{ card.rows[row]!.says }}</template></span
            >
            <button class="tool" aria-label="Next row" :disabled="row + 1 >= card.good" @click="row += 1">
              <ChevronRight :size="16" />
            </button>
          </div>
        </template>
        <p v-else-if="card" class="none">No row can be made yet. The reasons are on the right.</p>
        <p v-else class="none">{{ own.name }} waits for its list.</p>
      </section>
      <section class="rows scroll" aria-labelledby="rows">
        <template v-if="card">
          <h2 id="rows" data-good>
            {{ card.good }} {{ card.good === 1 ? 'row' : 'rows' }}{{ card.bad.length ? `, ${card.bad.length} left out` : '' }}
          </h2>
          <ul v-if="card.bad.length" class="bad">
            <li v-for="bad in card.bad.slice(0, 60)" :key="bad.line" data-bad>
              <b>Line {{ bad.line }}</b> {{ bad.says }}
            </li>
          </ul>
          <ul v-if="card.spills.length" class="bad">
            <li v-for="spill in card.spills.slice(0, 60)" :key="spill.line">
              <b>Line {{ spill.line }}</b> {{ spill.says }}
            </li>
          </ul>
          <ul class="good">
            <li v-for="(entry, at) in card.rows" :key="entry.line">
              <button :aria-current="at === row ? 'true' : undefined" :class="{ spills: spilling(entry.line) }" @click="row = at">
                <small>{{ entry.line }}</small>{{ entry.says }}
              </button>
            </li>
          </ul>
          <div class="deeds">
            <ElRadioGroup v-model="how" aria-label="What becomes of them">
              <ElRadio value="sheets" label="On print sheets" />
              <ElRadio value="pdf" label="One PDF, a page each" />
              <ElRadio value="png" label="A picture each, in a ZIP" />
            </ElRadioGroup>
            <WorkLine v-if="work.busy.value && work.state.value" :state="work.state.value" what="rows" @give-up="work.giveUp" />
            <RouterLink
              v-if="how === 'sheets'"
              class="act next go"
              :class="{ off: !card.good }"
              :to="{ name: 'sheets', params: { job }, query: { list: '1' } }"
              @click="bench.show(own.sides[0]!.id)"
              ><Printer :size="16" />Lay them on sheets</RouterLink
            >
            <button v-else class="act next go" :disabled="!card.good || work.busy.value" @click="make">
              <FileDown :size="16" />{{ how === 'pdf' ? 'Write the PDF' : 'Write the ZIP' }}
            </button>
            <BackLink class="back" :job="job" />
          </div>
        </template>
      </section>
    </template>
  </HandFrame>
</template>

<style scoped>
section {
  display: flex;
  flex-direction: column;
  gap: 12px;
  padding: 18px 16px;
  min-height: 0;
}

.columns,
.rows {
  background: var(--paper);
}

.columns {
  border-right: 1px solid var(--rule);
}

.rows {
  border-left: 1px solid var(--rule);
}

.file {
  display: flex;
  justify-content: space-between;
  gap: 12px;
}

.match {
  display: grid;
  gap: 12px;
}

.match li {
  display: grid;
  grid-template-columns: 1fr;
  gap: 2px;
}

.match small {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.drop :deep(.el-upload-dragger) {
  display: grid;
  justify-items: center;
  gap: 6px;
  padding: 18px;
}

.stage {
  align-items: center;
  justify-content: center;
  background: var(--stage);
}

.sheets {
  flex: 1;
  display: flex;
  gap: 18px;
  align-items: center;
  justify-content: center;
  min-height: 0;
  width: 100%;
}

.sheets img {
  max-width: 100%;
  max-height: 100%;
  min-width: 0;
  background: #fff;
  box-shadow: 0 1px 10px rgb(0 0 0 / 0.3);
  object-fit: contain;
}

.turn {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 2px 10px;
  border-radius: 4px;
  background: var(--paper);
}

.none {
  padding: 12px 16px;
  background: var(--paper);
  border-radius: 3px;
}

.bad {
  display: grid;
  gap: 6px;
  max-height: 40%;
  overflow-y: auto;
  padding: 8px 10px;
  border-left: 3px solid var(--madder);
  background: var(--paper-2);
}

.good {
  flex: 1;
  min-height: 60px;
  overflow-y: auto;
}

.good button {
  display: grid;
  grid-template-columns: 34px 1fr;
  width: 100%;
  padding: 3px 6px;
  text-align: left;
  border-radius: 3px;
}

.good button:hover,
.good button[aria-current] {
  background: var(--paper-3);
}

.good small {
  color: var(--ink-3);
}

.good .spills {
  color: var(--madder-deep);
}

.deeds {
  display: grid;
  gap: 8px;
}

.deeds :deep(.el-radio-group) {
  display: grid;
  justify-items: start;
}

.go {
  height: 36px;
  text-decoration: none;
}

.off {
  pointer-events: none;
  opacity: 0.4;
}
</style>
