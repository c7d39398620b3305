import { computed, onUnmounted, ref, watch } from 'vue'
import { api } from '../api/client'
import type { WorkCard } from '../generated/types'
import { useLive } from '../stores/live'
import { useNotices } from '../stores/notices'

/** One piece of work that makes files: how far it is, giving it up, and fetching what it made as soon as it is done. */
export function useWork(fetchFrom: (work: string) => string, done: () => string) {
  const live = useLive()
  const notices = useNotices()
  const id = ref<string | null>(null)
  const state = computed(() => (id.value ? (live.works.get(id.value) ?? null) : null))
  const busy = computed(() => state.value?.state.is === 'waiting' || state.value?.state.is === 'running')

  async function begin(start: () => Promise<WorkCard>) {
    try {
      const card = await start()
      id.value = card.id
      // It may have been done before this window heard of it.
      const now = await api.work(card.id)
      if (live.works.get(card.id)?.state.is !== 'done') live.works.set(card.id, now)
    } catch (error) {
      notices.report(error)
    }
  }

  async function giveUp() {
    if (id.value) await api.giveUp(id.value).catch(notices.report)
  }

  watch(
    () => state.value?.state.is,
    (is) => {
      const mine = id.value
      if (!mine || !is) return
      if (is === 'failed' && state.value?.state.is === 'failed') notices.say(state.value.state.says, { trouble: true })
      if (is === 'cancelled') id.value = null
      if (is !== 'done') return
      const link = document.createElement('a')
      link.href = fetchFrom(mine)
      link.download = ''
      link.click()
      id.value = null
      notices.say(done())
    },
  )
  onUnmounted(() => {
    if (id.value && busy.value) void api.giveUp(id.value).catch(() => undefined)
  })

  return { state, busy, begin, giveUp }
}
