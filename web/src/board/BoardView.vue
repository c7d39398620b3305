<script setup lang="ts">
import { CopyPlus, Moon, Plus, Sun, Trash2 } from '@lucide/vue'
import { useDebounceFn } from '@vueuse/core'
import { onMounted, ref, watch } from 'vue'
import { api } from '../api/client'
import VatmanMark from '../parts/VatmanMark.vue'
import type { JobCard, SheetCard, StateCard } from '../generated/types'
import { useDarkLight } from '../stores/light'
import { useLive } from '../stores/live'
import { useNotices } from '../stores/notices'
import NextDialog from './NextDialog.vue'

const notices = useNotices()
const jobs = ref<JobCard[] | null>(null)
const dark = useDarkLight()

async function load() {
  try {
    jobs.value = await api.board()
  } catch (error) {
    notices.report(error)
  }
}
onMounted(load)
const live = useLive()
// What another window does to a job shows here without being asked for.
watch(() => live.board, useDebounceFn(load, 300))

async function remove(job: JobCard) {
  try {
    await api.remove(job.id)
    notices.say(`“${job.title}” was put away.`, {
      action: { label: 'Bring it back', run: () => void api.restore(job.id).then(load, notices.report) },
    })
    await load()
  } catch (error) {
    notices.report(error)
  }
}

/** The job whose next is being made. */
const following = ref<JobCard | null>(null)

const ROOM = 300

/** Sheets of equal area, so that a card and a poster both can be read; spread like cards in a hand. */
function fan(sheets: SheetCard[]) {
  const shown = sheets.slice(0, 5)
  const size = 186 - shown.length * 12
  const high = (sheet: SheetCard) => Math.min(size / Math.sqrt(sheet.aspect), 176)
  const middle = (shown.length - 1) / 2
  const room = ROOM - 24
  const widths = shown.map((sheet) => high(sheet) * sheet.aspect)
  const total = widths.reduce((sum, width) => sum + width, 0)
  const overlap = shown.length > 1 ? Math.max((total - room) / (shown.length - 1), -14) : 0
  const squeeze = Math.min(1, room / Math.max(...widths, 1))
  let left = 12 + (room - Math.min(total - overlap * (shown.length - 1), room)) / 2
  return shown.map((sheet, i) => {
    const place = {
      sheet,
      width: widths[i]! * squeeze,
      height: high(sheet) * squeeze,
      left,
      turn: (i - middle) * 2.4,
      lift: Math.abs(i - middle) * 4,
    }
    left += widths[i]! - overlap
    return place
  })
}

function when(at: number) {
  const days = Math.floor((Date.now() - at) / 86_400_000)
  const date = new Date(at)
  const clock = date.toLocaleTimeString([], { hour: '2-digit', minute: '2-digit', hour12: false })
  return days < 1 ? `kept ${clock}` : `kept ${date.toLocaleDateString([], { day: 'numeric', month: 'short' })}`
}

/** The earlier states of a job that cannot be read, once somebody looks for them. */
const states = ref<{ job: string; list: StateCard[] } | null>(null)
async function findStates(job: JobCard) {
  try {
    states.value = { job: job.id, list: await api.states(job.id) }
  } catch (error) {
    notices.report(error)
  }
}
async function putBack(job: JobCard, revision: number) {
  try {
    await api.putBack(job.id, revision)
    states.value = null
    await load()
  } catch (error) {
    notices.report(error)
  }
}
const moment = (at: number) =>
  new Date(at).toLocaleString([], { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit', hour12: false })

const pieces = (job: JobCard) => [...new Set(job.sheets.map((sheet) => sheet.name))].join(', ')
</script>

<template>
  <div class="board">
    <header>
      <VatmanMark />
      <strong>Vatman</strong>
      <span class="grow" />
      <button class="tool" :aria-label="dark ? 'Light chrome' : 'Dark chrome'" @click="dark = !dark">
        <Sun v-if="dark" :size="17" /><Moon v-else :size="17" />
      </button>
      <RouterLink class="act next" :to="{ name: 'start' }"><Plus :size="16" />Start a job</RouterLink>
    </header>
    <main class="scroll">
      <div class="head">
        <h1>Jobs on the board</h1>
        <span v-if="jobs" class="quiet">{{ jobs.length === 1 ? '1 job' : `${jobs.length} jobs` }}, last touched first</span>
      </div>
      <p v-if="jobs && jobs.length === 0" class="empty">
        Nothing is on the board yet. Start a job: say where it will go and what it says, then choose a design with your own words in it.
      </p>
      <ul v-if="jobs" class="jobs">
        <li v-for="job in jobs" :key="job.id" class="job">
          <div v-if="job.damaged" class="open torn">
            <h2>{{ job.title }}</h2>
            <p>{{ job.damaged }} Nothing else is touched by it.</p>
            <template v-if="states?.job === job.id">
              <p v-if="!states.list.length" class="quiet">No earlier state of it was kept.</p>
              <button v-for="state in states.list" :key="state.revision" class="act" @click="putBack(job, state.revision)">
                As it was on {{ moment(state.keptAt) }}
              </button>
            </template>
            <button v-else class="act" @click="findStates(job)">Earlier states</button>
            <a class="link" :href="api.document(job.id)" download>Keep what is there as a file</a>
          </div>
          <RouterLink v-else :to="{ name: 'bench', params: { job: job.id } }" class="open">
            <div class="fan" aria-hidden="true">
              <figure
                v-for="place in fan(job.sheets)"
                :key="place.sheet.side"
                class="checks"
                :style="{
                  left: `${place.left}px`,
                  width: `${place.width}px`,
                  height: `${place.height}px`,
                  transform: `translateY(${place.lift}px) rotate(${place.turn}deg)`,
                }">
                <img :src="api.sheetPicture(job.id, place.sheet.side, 320, `${job.revision}-${live.faces}`)" alt="" loading="lazy" />
              </figure>
            </div>
            <span class="about">
              <h2>{{ job.title }}</h2>
              <span class="pieces quiet">{{ pieces(job) }}</span>
            </span>
          </RouterLink>
          <span class="foot quiet">
            <span>{{ when(job.changedAt) }}</span>
            <span class="grow" />
            <button
              v-if="!job.damaged"
              class="tool"
              :aria-label="`Make the next of “${job.title}”`"
              data-tip="The next of a series, or a copy"
              @click="following = job">
              <CopyPlus :size="15" />
            </button>
            <button class="tool" :aria-label="`Put “${job.title}” away`" @click="remove(job)"><Trash2 :size="15" /></button>
          </span>
        </li>
      </ul>
      <p class="end"><RouterLink class="link" :to="{ name: 'about' }">About Vatman, and licences</RouterLink></p>
    </main>
    <NextDialog v-model="following" />
  </div>
</template>

<style scoped>
.board {
  height: 100%;
  display: grid;
  grid-template-rows: var(--bar) 1fr;
}

header {
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 0 20px;
  background: var(--paper);
  border-bottom: 1px solid var(--rule);
}

header strong {
  font-size: var(--text-3);
  letter-spacing: 0.01em;
}

header a {
  text-decoration: none;
}

.grow {
  flex: 1;
}

main {
  padding: 24px 32px 48px;
}

.head {
  display: flex;
  align-items: baseline;
  gap: 12px;
  max-width: 1480px;
  margin: 0 auto 18px;
}

.empty {
  max-width: 46ch;
  margin: 12vh auto 0;
  font-size: var(--text-3);
  text-align: center;
}

.end {
  max-width: 1480px;
  margin: 28px auto 0;
}

.jobs {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(330px, 1fr));
  gap: 20px;
  max-width: 1480px;
  margin: 0 auto;
}

.job {
  position: relative;
  display: flex;
  flex-direction: column;
  background: var(--paper);
  border: 1px solid var(--rule);
  border-radius: 4px;
}

.job:hover {
  border-color: var(--rule-strong);
}

.open {
  color: inherit;
  text-decoration: none;
  flex: 1;
}

.fan {
  position: relative;
  height: 216px;
  width: 300px;
  margin: 0 auto;
  display: flex;
  align-items: center;
}

figure {
  position: absolute;
  transform-origin: 50% 140%;
  box-shadow:
    0 0 0 1px rgb(33 30 26 / 0.14),
    0 3px 10px rgb(33 30 26 / 0.22);
}

figure img {
  display: block;
  width: 100%;
  height: 100%;
}

.about {
  display: block;
  padding: 12px 14px 0;
  border-top: 1px solid var(--rule);
}

.pieces {
  display: block;
  min-height: 18px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.foot {
  display: flex;
  align-items: center;
  justify-content: space-between;
  padding: 0 8px 6px 14px;
  font-size: var(--text-1);
}
.torn {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  gap: 8px;
  padding: 16px;
}

.torn p {
  margin: 0;
  font-size: var(--text-1);
}
</style>
