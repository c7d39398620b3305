import { computed } from 'vue'
import type { RunStyle, Script, TypeChange, TypeLook } from '../generated/types'
import { toFine, toRatio } from '../measures'
import { useBench, type Plain } from '../stores/bench'

const ranged = new Set(['family', 'weight', 'italic', 'underline', 'strike', 'tracking', 'caps'])

/** The type of what is selected, or of the letters selected while typing, and how it is changed. */
export function useType(items: () => Plain[]) {
  const bench = useBench()
  const first = computed(() => items()[0]!)
  const type = computed(() => first.value.look.type)
  const size = computed(() => toFine(bench.drawn.get(first.value.item.id)?.typeSize ?? 0))

  /** Letters selected while typing: changes of style go to them alone. */
  const part = computed(() => {
    const [from, to] = bench.range
    return bench.typing && bench.typing === first.value.item.id && from !== to ? { from, to } : null
  })
  const own = computed<RunStyle>(() => (part.value ? bench.styleAt(first.value, part.value.from) : {}))
  /** What the letters look like that a change would go to. */
  const now = computed(() =>
    type.value
      ? ({
          ...type.value,
          ...(part.value ? Object.fromEntries(Object.entries(own.value).filter(([key]) => key !== 'size' && key !== 'script')) : {}),
        } as TypeLook)
      : null,
  )

  function styleLetters(set: RunStyle, more: { clear?: boolean; level?: boolean } = {}, gesture?: string) {
    if (!part.value) return
    void bench.act(
      { act: 'styleLetters', item: first.value.item.id, ...part.value, change: { set, clear: false, level: false, ...more } },
      gesture,
    )
    if (!gesture) bench.goOnTyping()
  }

  function set(change: TypeChange) {
    if (part.value && Object.keys(change).every((key) => ranged.has(key))) return styleLetters(change as RunStyle)
    void bench.act({ act: 'changeType', items: items().map((p) => p.item.id), change })
    bench.goOnTyping()
  }

  async function setSize(fine: number) {
    if (part.value) return styleLetters({ size: toRatio(fine / size.value) })
    // Several are set in one step.
    const gesture = `size-${crypto.randomUUID()}`
    bench.goOnTyping()
    for (const p of items()) await bench.act({ act: 'typeSize', item: p.item.id, size: fine }, gesture, false)
  }

  /** A colour chosen by a hand that is still moving is one step. */
  let colouring = ''
  const liveTint = (tint: string) => styleLetters({ tint }, {}, (colouring ||= `letters-${crypto.randomUUID()}`))
  function doneTint(tint: string) {
    styleLetters({ tint }, {}, colouring || undefined)
    colouring = ''
    bench.goOnTyping()
  }

  const setScript = (script: Script) => (own.value.script === script ? styleLetters({}, { level: true }) : styleLetters({ script }))

  return { first, type, size, part, own, now, set, setSize, styleLetters, liveTint, doneTint, setScript }
}
