<script setup lang="ts">
import { ElInput, ElMessageBox } from 'element-plus'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api } from '../api/client'
import type { Finding, Piece, WayCard } from '../generated/types'
import { showFormat } from '../measures'
import ActMenu from '../parts/ActMenu.vue'
import { useBench } from '../stores/bench'
import { useNotices } from '../stores/notices'

/** The piece chosen on the wall: what its arrangement comes from, the others that are offered, and what can be done with it. */
const props = defineProps<{ piece: Piece; findings: Finding[] }>()
const bench = useBench()
const notices = useNotices()
const router = useRouter()

const follows = computed(() => {
  const from = props.piece.follows
  if (!from || from.from === 'hand') return 'Arranged by hand'
  if (from.from === 'design') return 'Arranged as designed'
  const model = bench.job?.pieces.find((other) => other.id === from.piece)
  return `${from.way}, like ${model ? `“${model.name}”` : 'a piece that is gone'}`
})
const placed = computed(() =>
  props.piece.sides
    .flatMap((side) => side.items)
    .filter((item) => item.place.byHand)
    .map((item) => item.id),
)

/** Ways to arrange it from what it follows. */
const ways = ref<WayCard[]>([])
const from = computed(() => {
  const of = props.piece.follows
  return of?.from === 'piece' && bench.job?.pieces.some((other) => other.id === of.piece) ? of.piece : props.piece.id
})
watch(
  () => [props.piece.id, bench.revision],
  async () => {
    if (!bench.job) return
    const mine = props.piece.id
    const found = await api.ways(bench.job.id, props.piece.place ?? '', from.value).catch(() => [])
    if (mine === props.piece.id) ways.value = found
  },
  { immediate: true },
)

const ratio = computed(() => props.piece.format.size.w / props.piece.format.size.h)
const others = computed(() => bench.job?.pieces.filter((other) => other.id !== props.piece.id) ?? [])

type Deed = 'open' | 'like' | 'size' | 'rename' | 'copy' | 'remove'
const deeds = computed<{ value: Deed; name: string; off?: boolean; apart?: boolean }[]>(() => [
  { value: 'like', name: 'Arrange all others like this one', off: !others.value.length },
  { value: 'size', name: 'Make it another size…' },
  { value: 'copy', name: 'Copy this piece', apart: true },
  { value: 'rename', name: 'Rename…' },
  { value: 'remove', name: 'Remove', off: !others.value.length },
])

async function ask(title: string, message: string, now: string, done: string): Promise<string | null> {
  const answer = await ElMessageBox.prompt(message, title, {
    inputValue: now,
    inputPattern: /\S/,
    inputErrorMessage: 'Type something first.',
    confirmButtonText: done,
    cancelButtonText: 'Never mind',
  }).catch(() => null)
  return answer ? answer.value.trim() : null
}

async function run(deed: Deed) {
  const { id, name } = props.piece
  if (deed === 'like') {
    if (await bench.act({ act: 'arrangeLike', pieces: others.value.map((other) => other.id), like: id }))
      notices.say(`The others are arranged like “${name}”. What was placed by hand stayed.`, {
        action: { label: 'Undo', run: () => void bench.act({ act: 'undo' }) },
      })
  } else if (deed === 'size') {
    const typed = await ask('Another size', 'A place, or a size such as 105 x 210 mm', '', 'Make it so')
    if (!typed) return
    const found = await api.places(typed).catch(() => null)
    const place = found?.own ?? found?.places[0]
    if (!place)
      return void notices.say(found?.problem ?? 'No place is called that. Type a size instead, such as 90 x 50 mm.', { trouble: true })
    if (await bench.act({ act: 'changeFormat', piece: id, place: place.id }))
      notices.say(`“${name}” is ${place.size} now.`, { action: { label: 'Undo', run: () => void bench.act({ act: 'undo' }) } })
  } else if (deed === 'rename') {
    const typed = await ask('Name of the piece', '', name, 'Rename')
    if (typed) await bench.act({ act: 'renamePiece', piece: id, name: typed })
  } else if (deed === 'copy') await bench.act({ act: 'duplicatePiece', piece: id })
  else if (deed === 'remove') {
    await bench.show(others.value[0]!.sides[0]!.id)
    if (await bench.act({ act: 'removePiece', piece: id }))
      notices.say(`“${name}” was removed.`, { action: { label: 'Bring it back', run: () => void bench.act({ act: 'undo' }) } })
  } else await router.push({ name: 'bench', params: { job: bench.job!.id } })
}

async function take(way: WayCard) {
  await bench.act({ act: 'arrangeOtherwise', piece: props.piece.id, way: way.number })
}

/** The words of what is selected, changed in every size that shares them. */
const says = computed(() => (bench.only?.content.kind === 'words' ? bench.only.content.text.map((run) => run.text).join('') : null))
let gesture = ''
function say(text: string) {
  if (bench.only) void bench.act({ act: 'say', item: bench.only.item.id, text }, gesture)
}

/** What is selected, and in how many pieces it stands. */
const shared = computed(() => (bench.only ? bench.shownIn(bench.only.item.kin) : 0))
const missing = computed(() => (bench.only && bench.job ? bench.job.pieces.length - shared.value : 0))
</script>

<template>
  <aside class="card scroll" :aria-label="piece.name">
    <div class="title">
      <h2>{{ piece.name }}</h2>
      <ActMenu label="Piece" :entries="deeds" @done="run">More</ActMenu>
    </div>
    <p class="quiet">{{ showFormat(piece.format) }}</p>
    <button class="act" @click="run('open')">Open on the bench</button>
    <template v-if="bench.only">
      <h3>{{ bench.names.get(bench.only.item.id) ?? 'Selected' }}</h3>
      <ElInput
        v-if="says !== null"
        :model-value="says"
        type="textarea"
        :autosize="{ minRows: 1, maxRows: 6 }"
        resize="none"
        :aria-label="`Words of ${bench.names.get(bench.only.item.id) ?? 'what is selected'}`"
        @focus="gesture = `wall-${Date.now()}`"
        @update:model-value="say" />
      <p class="quiet">{{ shared === 1 ? 'Stands here alone' : `Stands in ${shared} of ${bench.job?.pieces.length} sizes` }}</p>
      <div class="row">
        <button v-if="missing > 0" class="act" @click="bench.act({ act: 'addElsewhere', item: bench.only.item.id })">
          Add to the others
        </button>
        <button v-if="shared > 1" class="act" @click="bench.act({ act: 'removeEverywhere', items: [bench.only.item.id] })">
          Remove everywhere
        </button>
      </div>
      <p v-if="bench.only.item.place.byHand" class="quiet">
        Placed by hand.
        <button class="link" @click="bench.act({ act: 'followAgain', items: [bench.only.item.id] })">Let it follow again</button>
      </p>
    </template>
    <h3>Arrangement</h3>
    <p class="quiet">
      {{ follows
      }}<template v-if="placed.length"
        >, {{ placed.length }} placed by hand.
        <button class="link" @click="bench.act({ act: 'followAgain', items: placed })">Let all follow again</button></template
      >
    </p>
    <ul v-if="ways.length > 1" class="ways" :class="{ wide: ratio > 1.5 }">
      <li v-for="way in ways" :key="way.number">
        <button :data-way="way.number" :aria-label="`Arrange it so: ${way.name}`" @click="take(way)">
          <img
            class="checks"
            :style="{ aspectRatio: String(ratio) }"
            :src="api.wayPicture(bench.job!.id, piece.place ?? '', way.number, 256, bench.revision, from)"
            alt="" />
          <span>{{ way.name }}</span>
        </button>
      </li>
    </ul>
    <template v-if="findings.length">
      <h3>Worth a look</h3>
      <ul class="found">
        <li v-for="one in findings.slice(0, 6)" :key="one.item + one.kind">{{ one.says }}</li>
      </ul>
    </template>
  </aside>
</template>

<style scoped>
.card {
  display: flex;
  flex-direction: column;
  gap: 8px;
  padding: 18px 16px 24px;
  background: var(--paper);
  border-left: 1px solid var(--rule);
}

.card > .act {
  flex: none;
  align-self: start;
}

.title {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 8px;
}

h3 {
  margin-top: 10px;
}

.row {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}

.ways {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px 10px;
  align-items: end;
}

.ways.wide {
  grid-template-columns: 1fr;
}

.ways button {
  display: grid;
  gap: 4px;
  width: 100%;
  text-align: left;
  font-size: var(--text-1);
}

.ways img {
  display: block;
  width: 100%;
  box-shadow: 0 0 0 1px rgb(33 30 26 / 0.16);
}

.ways button:hover img {
  box-shadow: 0 0 0 2px var(--ink);
}

.found {
  display: grid;
  gap: 6px;
  font-size: var(--text-1);
}

.found li {
  padding-left: 8px;
  border-left: 2px solid var(--madder);
}
</style>
