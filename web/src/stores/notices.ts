import { ElMessage } from 'element-plus'
import { defineStore } from 'pinia'
import { h, ref, watch } from 'vue'
import { ApiProblem } from '../api/client'

interface Deed {
  label: string
  run: () => void
}

interface Options {
  trouble?: boolean
  action?: Deed
  /** A second thing that is offered. */
  other?: Deed | undefined
  /** Says whether what is offered still works; where it does not any more, the message goes away. */
  while?: () => boolean
}

/** Most messages at once. */
const MOST = 3

/** Short sentences at the foot of the stage: what went wrong, or what can be taken back. */
export const useNotices = defineStore('notices', () => {
  const shown = ref(new Map<string, () => void>())

  function drop(text: string) {
    shown.value.get(text)?.()
  }

  function say(text: string, options: Options = {}) {
    drop(text)
    const oldest = [...shown.value.keys()][0]
    if (shown.value.size >= MOST && oldest) drop(oldest)
    const offers = [options.action, options.other].filter((deed) => deed !== undefined)
    let unwatch = () => {}
    const message = ElMessage({
      message: h('span', { class: 'sentence' }, [
        h('span', text),
        ...offers.map((deed) =>
          h(
            'button',
            {
              class: 'do',
              onClick: () => {
                deed.run()
                message.close()
              },
            },
            deed.label,
          ),
        ),
      ]),
      type: options.trouble ? 'error' : 'info',
      customClass: 'notices',
      placement: 'bottom',
      offset: 120,
      showClose: true,
      duration: options.trouble || offers.length ? 9000 : 5000,
      onClose: () => {
        unwatch()
        shown.value.delete(text)
      },
    })
    shown.value.set(text, message.close)
    if (options.while)
      unwatch = watch(options.while, (holds) => {
        if (!holds) message.close()
      })
  }

  function report(error: unknown) {
    const text =
      error instanceof ApiProblem ? error.message : 'Something went wrong on this page. Everything kept so far is safe; reload the page.'
    // oxlint-disable-next-line no-console -- what nobody foresaw has no other place.
    if (!(error instanceof ApiProblem)) console.error(error)
    say(text, { trouble: true })
  }

  return { say, report, drop }
})
