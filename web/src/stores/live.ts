import { useEventSource } from '@vueuse/core'
import { defineStore } from 'pinia'
import { ref, shallowReactive, watch } from 'vue'
import type { Event, WorkCard } from '../generated/types'
import { useBench } from './bench'
import { useNotices } from './notices'
import { useShelf } from './shelf'

/** The one connection over which the program tells this window what happens. */
export const useLive = defineStore('live', () => {
  const bench = useBench()
  const shelf = useShelf()
  const notices = useNotices()

  /** Goes up whenever jobs came, went or turned out to be unreadable. */
  const board = ref(0)
  /** Goes up whenever typefaces came or went: small pictures are asked for again. */
  const faces = ref(0)
  /** Work in the background, by identity. */
  const works = shallowReactive(new Map<string, WorkCard>())
  let version: string | null = null

  const { eventSource, status } = useEventSource('/api/events', [], { autoReconnect: { retries: -1, delay: 2000 } })

  function everything() {
    void bench.refresh()
    void shelf.load()
    void shelf.loadKept()
    board.value += 1
  }

  function hear(event: Event) {
    switch (event.event) {
      case 'hello':
        // A page of another version would speak another language: it is read anew. Nothing is lost, all is kept as it is made.
        if (version && version !== event.version)
          notices.say('A new version is here.', { action: { label: 'Show it', run: () => window.location.reload() } })
        version ??= event.version
        everything()
        break
      case 'missed':
        everything()
        break
      case 'job':
        if (event.job === bench.job?.id) bench.hear(event.revision)
        board.value += 1
        break
      case 'board':
        board.value += 1
        break
      case 'shelf':
        void shelf.load()
        break
      case 'kept':
        void shelf.loadKept()
        break
      case 'families':
        faces.value += 1
        void shelf.loadFamilies()
        void bench.show(bench.sideId)
        break
      case 'work':
        works.set(event.work.id, event.work)
        break
    }
  }

  watch(
    eventSource,
    (source) => {
      source?.addEventListener('message', (message: MessageEvent<string>) => hear(JSON.parse(message.data) as Event))
    },
    { immediate: true, flush: 'sync' },
  )

  return { board, faces, works, status }
})
