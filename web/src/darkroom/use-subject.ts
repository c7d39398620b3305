import { computed, ref, watch } from 'vue'
import { api } from '../api/client'
import type { FoundSubject, PutOn } from '../generated/types'
import { useBench } from '../stores/bench'
import { useLive } from '../stores/live'
import { useNotices } from '../stores/notices'

/** Finds the subject of a picture: work that takes a moment, says how far it is, and can be given up. */
export function useSubject(item: () => string) {
  const bench = useBench()
  const live = useLive()
  const notices = useNotices()
  const work = ref<string | null>(null)
  const state = computed(() => (work.value ? (live.works.get(work.value) ?? null) : null))
  const finding = computed(() => work.value !== null)
  const share = computed(() => (state.value?.of ? Math.round((state.value.done / state.value.of) * 100) : 0))
  let told: (found: FoundSubject | null) => void = () => undefined

  watch(
    () => state.value?.state.is,
    async (is) => {
      if (!work.value || is === undefined || is === 'waiting' || is === 'running') return
      const id = work.value
      if (is === 'failed' && state.value?.state.is === 'failed') notices.say(state.value.state.says, { trouble: true })
      const found = is === 'done' ? await api.foundSubject(id).catch(() => null) : null
      work.value = null
      told(found)
    },
  )

  async function find(of: 'subject' | 'withoutGround' = 'subject'): Promise<FoundSubject | null> {
    await giveUp()
    try {
      const card = await api.findSubject(bench.job!.id, item(), of)
      const found = new Promise<FoundSubject | null>((resolve) => {
        told = resolve
      })
      work.value = card.id
      // It may have been done before this window heard of it.
      const now = await api.work(card.id)
      const known = live.works.get(card.id)?.state.is
      if (known === undefined || known === 'waiting' || known === 'running') live.works.set(card.id, now)
      return await found
    } catch (error) {
      notices.report(error)
      return null
    }
  }
  async function giveUp() {
    const id = work.value
    work.value = null
    if (id) await api.giveUp(id).catch(() => undefined)
    told(null)
  }

  /** Cuts the picture out by its subject, as strokes have said so far. */
  async function cut(of: 'subject' | 'withoutGround' = 'subject') {
    const found = await find(of)
    if (found) await bench.act({ act: 'cutOut', item: item(), mask: found.mask })
    return found
  }
  /** Puts the subject in front of everything, so that words between the two are seen behind it. */
  async function front() {
    const found = await find()
    const response = found ? await bench.act({ act: 'subjectInFront', item: item(), mask: found.mask }) : null
    if (response?.made.length) {
      bench.selection = response.made
      notices.say('The subject stands in front now, and goes where the picture goes.', {
        action: { label: 'Undo', run: () => void bench.act({ act: 'undo' }) },
      })
    }
  }
  /** Puts what is cut out on a ground of its own; where nothing is cut out yet, its subject is found first. */
  async function putOn(on: PutOn) {
    if (!bench.plain(item())?.look.cut_out && !(await cut())) return
    await bench.act({ act: 'putOn', item: item(), on })
  }
  return { putOn, finding, share, find, giveUp, cut, front }
}
