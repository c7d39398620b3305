<script setup lang="ts">
import { Check, FileDown, FolderDown } from '@lucide/vue'
import { ElCheckbox, ElCheckboxGroup, ElRadio, ElRadioButton, ElRadioGroup, ElSlider } from 'element-plus'
import { useDebounceFn } from '@vueuse/core'
import { computed, onUnmounted, reactive, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api } from '../api/client'
import DraftField from '../parts/DraftField.vue'
import FoldGroup from '../parts/FoldGroup.vue'
import type { FileCard, FileKind, Finding, HandOverRequest, HandedCard, Piece } from '../generated/types'
import BackLink from './BackLink.vue'
import HandFrame from './HandFrame.vue'
import NamesField from './NamesField.vue'
import WorkLine from './WorkLine.vue'
import { showBytes, showFormat } from '../measures'
import { useBench } from '../stores/bench'
import { useLive } from '../stores/live'
import { useNotices } from '../stores/notices'
import { useOpenJob } from '../stores/use-open-job'

const props = defineProps<{ job: string }>()
const bench = useBench()
const notices = useNotices()
const router = useRouter()

/** Each piece as its place takes it, or all in one kind. */
type Wanted = FileKind | 'place'
const kinds: { kind: Wanted; name: string; about: string }[] = [
  {
    kind: 'place',
    name: 'Right for each place',
    about: 'The kind of file the place takes, within its limit, at the best quality that fits.',
  },
  { kind: 'png', name: 'PNG', about: 'For screens and anything with letters or flat colour. Loses nothing; may be clear.' },
  { kind: 'jpeg', name: 'JPEG', about: 'For photographs where the file must be small. You choose how much is kept.' },
  { kind: 'pdf', name: 'PDF', about: 'For paper. Exact size, sharp at any scale, all sides in one file.' },
  { kind: 'svg', name: 'SVG', about: 'For other drawing programs, cutters and cloth printers. Sharp at any scale.' },
]

const further: { kind: Wanted; name: string; about: string }[] = [
  { kind: 'webp', name: 'WebP', about: 'For web pages. Small; loses nothing at a quality of 100. May be clear.' },
  { kind: 'tiff', name: 'TIFF', about: 'For print shops and archives that ask for it. Loses nothing; large.' },
  { kind: 'gif', name: 'GIF', about: 'For old readers. At most 256 colours.' },
]

const chosen = ref<string[]>([])
const how = reactive({
  kind: 'place' as Wanted,
  measure: 'times' as 'times' | 'width',
  times: 1,
  width: 1080,
  quality: 85,
  clear: false,
  bleed: false,
  marks: false,
  process: false,
  lasting: false,
})
/** Sides of the chosen pieces that stay behind. */
const left = ref<string[]>([])
const files = ref<FileCard[] | null>(null)

useOpenJob(
  () => props.job,
  () => {
    const start = bench.piece ?? bench.job?.pieces[0]
    if (!chosen.value.length && start) chosen.value = [start.id]
  },
)

const pieces = computed(() => bench.job?.pieces ?? [])

/** What was handed over before, and whether it still looks so. */
const handed = ref<HandedCard[]>([])
const lookBack = useDebounceFn(async () => {
  if (bench.job) handed.value = await api.handed(bench.job.id).catch(() => handed.value)
}, 200)
watch(() => [bench.job?.id, bench.revision], lookBack, { immediate: true })
const before = (piece: Piece) => handed.value.find((one) => one.piece === piece.id)
const moment = (at: number) =>
  new Date(at).toLocaleString([], { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit', hour12: false })
/** Pieces that look otherwise than when they were handed over last, or never were. */
const changed = computed(() => pieces.value.filter((piece) => !before(piece)?.same))

const picked = computed(() => pieces.value.filter((piece) => chosen.value.includes(piece.id)))
const pixels = computed(() => !['place', 'pdf', 'svg'].includes(how.kind))
const mayBeClear = computed(() => !['place', 'jpeg', 'pdf'].includes(how.kind))
const hasBleed = computed(() => picked.value.some((piece) => piece.format.bleed > 0))

watch(
  () => picked.value[0],
  (piece) => {
    if (piece) how.width = Math.round((piece.format.size.w / 914_400) * piece.format.ppi)
  },
)

/** The sides of a piece that leave. */
const leaving = (piece: Piece) => piece.sides.map((side) => side.id).filter((id) => !left.value.includes(id))

const wish = computed<HandOverRequest>(() => ({
  pieces: picked.value.map((piece) => piece.id),
  sides: picked.value.filter((piece) => piece.sides.some((side) => left.value.includes(side.id))).flatMap((piece) => leaving(piece)),
  ...(how.kind === 'place' ? {} : { kind: how.kind }),
  clear: how.clear && mayBeClear.value,
  bleed: how.bleed && hasBleed.value && how.kind !== 'place',
  marks: how.marks && how.bleed && how.kind !== 'place',
  ...(how.kind === 'pdf' && how.process ? { process: true } : {}),
  ...(how.kind === 'pdf' && how.lasting ? { lasting: true } : {}),
  ...(pixels.value && how.measure === 'times' ? { times: how.times } : {}),
  ...(pixels.value && how.measure === 'width' ? { width: how.width } : {}),
  ...(how.kind === 'jpeg' || how.kind === 'webp' ? { quality: how.quality } : {}),
}))

const live = useLive()
/** The work that makes the files of what is chosen now. */
const work = ref<string | null>(null)
const state = computed(() => (work.value ? (live.works.get(work.value) ?? null) : null))
const making = computed(() => state.value?.state.is === 'waiting' || state.value?.state.is === 'running')
/** Whether the files that are listed are those of what is chosen now. */
const fresh = ref(false)
let asked = 0

/** Makes the files of what is chosen; what was being made and is not wanted any more is given up. */
const make = useDebounceFn(async () => {
  const before = work.value
  work.value = null
  fresh.value = false
  if (before && live.works.get(before)?.state.is !== 'done') void api.giveUp(before).catch(() => undefined)
  if (!bench.job || !wish.value.pieces.length) {
    files.value = null
    return
  }
  const mine = ++asked
  try {
    const card = await api.makeFiles(bench.job.id, wish.value)
    if (mine !== asked) return void api.giveUp(card.id).catch(() => undefined)
    work.value = card.id
    // It may have been done before this window heard of it.
    const now = await api.work(card.id)
    if (live.works.get(card.id)?.state.is !== 'done') live.works.set(card.id, now)
  } catch (error) {
    if (mine === asked) notices.report(error)
  }
}, 250)
watch([wish, () => bench.revision], make, { immediate: true })
watch(
  () => state.value?.state.is,
  async (is) => {
    if (!work.value) return
    if (is === 'failed' && state.value?.state.is === 'failed') notices.say(state.value.state.says, { trouble: true })
    if (is !== 'done') return
    const mine = work.value
    const found = await api.madeFiles(mine).catch(() => null)
    if (mine !== work.value) return
    files.value = found
    fresh.value = found !== null
  },
)
async function giveUp() {
  if (work.value) await api.giveUp(work.value).catch(notices.report)
}
onUnmounted(() => {
  if (work.value && making.value) void api.giveUp(work.value).catch(() => undefined)
})

/** What would leave otherwise than it is meant, of the pieces that were picked. */
const findings = ref<Finding[]>([])
watch(
  () => bench.revision,
  async () => {
    if (bench.job) findings.value = await api.findings(bench.job.id).catch(() => [])
  },
  { immediate: true },
)
const look = computed(() => findings.value.filter((finding) => chosen.value.includes(finding.piece)))

async function go(finding: Finding) {
  await bench.show(finding.side)
  bench.selection = finding.item ? [finding.item] : []
  await router.push({
    name: 'bench',
    params: { job: props.job, step: finding.kind === 'emptyFrame' || finding.kind === 'missingPicture' ? 'pictures' : 'words' },
  })
}

const total = computed(() => (files.value ?? []).reduce((sum, file) => sum + file.bytes, 0))

function toggle(piece: Piece) {
  chosen.value = chosen.value.includes(piece.id) ? chosen.value.filter((id) => id !== piece.id) : [...chosen.value, piece.id]
}

function leave(piece: Piece, sides: unknown[]) {
  // A piece without any of its sides is not handed over at all.
  if (!sides.length) toggle(piece)
  left.value = [
    ...left.value.filter((id) => !piece.sides.some((side) => side.id === id)),
    ...(sides.length ? piece.sides.map((side) => side.id).filter((id) => !sides.includes(id)) : []),
  ]
}

function setWidth(typed: string) {
  const value = Math.round(Number(typed.replace(/px|,|\s/g, '')))
  if (Number.isFinite(value) && value >= 1 && value <= 20_000) {
    how.width = value
    how.measure = 'width'
  } else notices.say('The width of a picture lies between 1 and 20,000 px. The last good width stays.', { trouble: true })
}

function write() {
  if (!work.value || !files.value || !fresh.value) return
  const link = document.createElement('a')
  link.href = api.madeFile(work.value)
  link.download = ''
  link.click()
  const only = files.value.length === 1 ? files.value[0] : undefined
  setTimeout(() => void lookBack(), 800)
  notices.say(only ? `${only.name} was handed over, ${showBytes(only.bytes)}.` : `${files.value.length} files were handed over.`)
}

/** A folder can be written to where the browser allows it. */
const folders = 'showDirectoryPicker' in window
async function writeFolder() {
  if (!work.value || !files.value || !fresh.value) return
  const mine = { work: work.value, files: files.value }
  try {
    const folder = await (
      window as unknown as { showDirectoryPicker: (how: object) => Promise<FileSystemDirectoryHandle> }
    ).showDirectoryPicker({ mode: 'readwrite' })
    for (const [at, file] of mine.files.entries()) {
      const to = await (await folder.getFileHandle(file.name, { create: true })).createWritable()
      await to.write(await api.madeOne(mine.work, at))
      await to.close()
    }
    notices.say(`${mine.files.length} files were written into “${folder.name}”.`)
    void lookBack()
  } catch (error) {
    // Closing the browser's own dialog is no trouble.
    if (!(error instanceof DOMException && error.name === 'AbortError')) notices.report(error)
  }
}

function fit(piece: Piece) {
  const ratio = piece.format.size.w / piece.format.size.h
  return ratio > 1.15 ? { width: '176px', aspectRatio: String(ratio) } : { height: '156px', aspectRatio: String(ratio) }
}
function measureTimes(times: number) {
  how.measure = 'times'
  how.times = times
}
</script>

<template>
  <HandFrame way="hand-over" :job="job" columns="1fr 344px 320px">
    <template v-if="bench.job">
      <section class="what scroll" aria-labelledby="what">
        <div class="line">
          <h1 id="what">What is handed over</h1>
          <span class="which">
            <button
              v-if="handed.length && changed.length && changed.length < pieces.length"
              class="link"
              data-changed
              @click="chosen = changed.map((p) => p.id)">
              Only what changed
            </button>
            <button class="link" @click="chosen = chosen.length === pieces.length ? [] : pieces.map((p) => p.id)">
              {{ chosen.length === pieces.length ? 'None' : 'All pieces' }}
            </button>
          </span>
        </div>
        <ul>
          <li v-for="piece in pieces" :key="piece.id">
            <button class="piece" role="checkbox" :aria-checked="chosen.includes(piece.id)" :data-piece="piece.name" @click="toggle(piece)">
              <span class="sheets">
                <img
                  v-for="side in piece.sides"
                  :key="side.id"
                  :class="{ checks: how.clear || !side.ground }"
                  :style="fit(piece)"
                  :src="api.sheetPicture(bench.job.id, side.id, 320, bench.revision)"
                  alt="" />
              </span>
              <span class="tick"
                ><i :class="{ on: chosen.includes(piece.id) }"><Check :size="12" /></i><b>{{ piece.name }}</b></span
              >
              <small class="quiet">{{ showFormat(piece.format) }}{{ piece.sides.length > 1 ? `, ${piece.sides.length} sides` : '' }}</small>
              <small v-if="before(piece)" class="quiet" :class="{ since: !before(piece)!.same }" data-handed
                >handed over {{ moment(before(piece)!.at) }}{{ before(piece)!.same ? '' : ', changed since' }}</small
              >
            </button>
            <ElCheckboxGroup
              v-if="piece.sides.length > 1 && chosen.includes(piece.id)"
              class="of"
              :model-value="leaving(piece)"
              :aria-label="`Sides of ${piece.name}`"
              @update:model-value="leave(piece, $event)">
              <ElCheckbox v-for="side in piece.sides" :key="side.id" :value="side.id" :label="side.name" />
            </ElCheckboxGroup>
          </li>
        </ul>
      </section>
      <section class="how scroll" aria-labelledby="how">
        <h2 id="how">In what form</h2>
        <ElRadioGroup v-model="how.kind" class="kinds" aria-label="Kind of file">
          <ElRadio v-for="entry in kinds" :key="entry.kind" :value="entry.kind" :data-kind="entry.kind"
            ><b>{{ entry.name }}</b
            ><span>{{ entry.about }}</span></ElRadio
          >
          <FoldGroup name="kinds" title="Other kinds" :says="further.find((entry) => entry.kind === how.kind)?.name ?? ''">
            <ElRadio v-for="entry in further" :key="entry.kind" :value="entry.kind" :data-kind="entry.kind"
              ><b>{{ entry.name }}</b
              ><span>{{ entry.about }}</span></ElRadio
            >
          </FoldGroup>
        </ElRadioGroup>
        <template v-if="pixels">
          <h3>Pixels</h3>
          <div class="sizes">
            <ElRadioGroup
              :model-value="how.measure === 'times' ? how.times : 0"
              aria-label="Pixels"
              @update:model-value="measureTimes(Number($event))">
              <ElRadioButton v-for="times in [1, 2, 3]" :key="times" :value="times" :data-times="times">{{ times }} ×</ElRadioButton>
            </ElRadioGroup>
            <label :class="{ on: how.measure === 'width' }"
              ><span>or exactly</span><DraftField :value="`${how.width} px`" aria-label="Exact width in pixels" @done="setWidth" /><span
                >wide</span
              ></label
            >
          </div>
        </template>
        <div v-if="how.kind === 'jpeg' || how.kind === 'webp'" class="quality">
          <h3>Quality {{ how.quality }}{{ how.kind === 'webp' && how.quality === 100 ? ', without loss' : '' }}</h3>
          <ElSlider v-model="how.quality" :min="20" :max="100" :show-tooltip="false" aria-label="Quality" />
        </div>
        <ElCheckbox v-if="mayBeClear" v-model="how.clear" class="tickbox" label="Without the ground, clear where nothing stands" />
        <ElCheckbox
          v-if="hasBleed && how.kind !== 'place'"
          v-model="how.bleed"
          class="tickbox"
          label="With the bleed, for a print shop that trims" />
        <FoldGroup
          v-if="how.kind === 'pdf'"
          name="pdf-more"
          title="For print shops and archives"
          :says="[how.process ? 'CMYK' : '', how.lasting ? 'PDF/A' : ''].filter(Boolean).join(', ')">
          <ElCheckbox v-model="how.process" class="tickbox" label="Colours in process inks (CMYK), with the profile of coated paper" />
          <ElCheckbox v-model="how.lasting" class="tickbox" label="For archives (PDF/A-2b)" />
        </FoldGroup>
        <ElCheckbox
          v-if="hasBleed && how.bleed && how.kind === 'pdf'"
          v-model="how.marks"
          class="tickbox"
          label="With crop marks and a line that names the sheet" />
      </section>
      <section class="files" aria-labelledby="files">
        <h2 id="files">Files</h2>
        <p v-if="!picked.length" class="quiet">Choose at least one piece.</p>
        <ul v-else aria-live="polite" :aria-busy="!fresh" :class="{ stale: !fresh }">
          <li v-for="file in files ?? []" :key="file.name">
            <span
              >{{ file.name }}<em v-if="file.over" class="over">its place takes {{ showBytes(file.over) }} at most</em></span
            ><b>{{ showBytes(file.bytes) }}</b>
          </li>
        </ul>
        <div v-if="look.length" class="look">
          <h3>Worth a look before it leaves</h3>
          <ul>
            <li v-for="finding in look" :key="(finding.item ?? finding.side) + finding.kind + finding.says">
              <button class="link" @click="go(finding)">{{ finding.says }}</button>
            </li>
          </ul>
        </div>
        <WorkLine v-if="making && state" :state="state" what="made" @give-up="giveUp" />
        <p v-else-if="state?.state.is === 'cancelled'" class="quiet" role="status">
          Given up. <button class="link" @click="make">Make them</button>
        </p>
        <p v-if="files && files.length > 1" class="total">
          {{ files.length }} files in one ZIP, about {{ showBytes(total)
          }}{{ how.kind === 'place' ? ', with a contact sheet and a list' : '' }}
        </p>
        <button class="act next go" :disabled="!picked.length || !fresh" @click="write">
          <FileDown :size="16" />{{ files && files.length > 1 ? 'Write the ZIP' : 'Write the file' }}
        </button>
        <button v-if="folders && files && files.length > 1" class="act go" :disabled="!fresh" @click="writeFolder">
          <FolderDown :size="16" />Into a folder…
        </button>
        <NamesField :example="files?.[0]?.name ?? ''" @kept="make" />
        <BackLink class="back" :job="job" />
      </section>
    </template>
  </HandFrame>
</template>

<style scoped>
section {
  padding: 22px 20px;
}

.how,
.files {
  background: var(--paper);
  border-left: 1px solid var(--rule);
}

.which {
  display: flex;
  gap: 16px;
}

.since {
  color: var(--madder-deep);
}

.look {
  display: grid;
  gap: 6px;
  margin: 14px 0;
  padding: 10px 12px;
  border-left: 3px solid var(--madder);
  background: var(--paper-2);
}

.look .link {
  text-align: left;
}

.line {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  margin-bottom: 16px;
}

.what ul {
  display: flex;
  flex-wrap: wrap;
  gap: 18px;
  align-items: flex-end;
}

.piece {
  display: grid;
  gap: 6px;
  padding: 14px;
  border: 1px solid transparent;
  border-radius: 4px;
  text-align: left;
}

.piece:hover {
  border-color: var(--rule-strong);
}

.piece[aria-checked='true'] {
  background: var(--paper);
  border-color: var(--ink);
}

.sheets {
  display: flex;
  gap: 8px;
  align-items: flex-end;
}

.sheets img {
  display: block;
  box-shadow:
    0 0 0 1px rgb(33 30 26 / 0.16),
    0 2px 8px rgb(33 30 26 / 0.16);
}

.tick {
  display: flex;
  gap: 8px;
  align-items: center;
}

.tick i {
  display: grid;
  place-items: center;
  color: transparent;
  width: 16px;
  height: 16px;
  border: 1.5px solid var(--ink-2);
  border-radius: 2px;
}

.tick i.on {
  background: var(--ink);
  color: var(--paper);
}

.how {
  display: flex;
  flex-direction: column;
  gap: 12px;
}

.kinds {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  width: 100%;
  border: 1px solid var(--rule);
  border-radius: 4px;
}

.kinds :deep(.el-radio) {
  align-items: flex-start;
  height: auto;
  margin: 0;
  padding: 10px 12px;
  white-space: normal;
}

.kinds :deep(.el-radio + .el-radio) {
  border-top: 1px solid var(--rule);
}

.kinds :deep(.el-radio__input) {
  margin-top: 3px;
}

.kinds :deep(.el-radio__label) {
  display: grid;
  color: var(--ink);
}

.kinds span {
  color: var(--ink-2);
  font-size: var(--text-1);
  font-weight: 400;
}

.kinds :deep(.is-checked) {
  background: var(--paper-3);
}

.sizes {
  display: grid;
  justify-items: start;
  gap: 8px;
}

.sizes label:not(.el-radio-button) {
  display: grid;
  grid-template-columns: auto 92px auto;
  align-items: center;
  gap: 8px;
  color: var(--ink-2);
}

.quality {
  padding-right: 8px;
}

.tickbox {
  margin: 0;
}

.files {
  display: flex;
  flex-direction: column;
  gap: 12px;
}

.files ul {
  display: grid;
  gap: 8px;
  overflow-y: auto;
}

.files li {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 12px;
  padding-bottom: 8px;
  border-bottom: 1px solid var(--rule);
}

.files li span {
  overflow-wrap: anywhere;
}

.over {
  display: block;
  color: var(--madder-deep);
  font-style: normal;
  font-size: var(--text-1);
}

.kinds :deep(.fold) {
  padding: 0 12px;
  border-top: 1px solid var(--rule);
}

.files li b {
  white-space: nowrap;
  font-weight: 600;
}

.total {
  font-weight: 600;
}

.go {
  height: 38px;
}

.stale {
  opacity: 0.5;
}
</style>
