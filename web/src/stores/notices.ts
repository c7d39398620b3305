import { defineStore } from 'pinia'
import { ref } from 'vue'
import { ApiProblem } from '../api/client'

export interface Notice {
  id: number
  text: string
  trouble: boolean
  action?: { label: string; run: () => void }
}

/** Short sentences at the foot of the window: what went wrong, or what can be taken back. */
export const useNotices = defineStore('notices', () => {
  const list = ref<Notice[]>([])
  let last = 0

  function drop(id: number) {
    list.value = list.value.filter((notice) => notice.id !== id)
  }

  function say(text: string, options: { trouble?: boolean; action?: Notice['action'] } = {}) {
    const same = list.value.find((notice) => notice.text === text)
    if (same) drop(same.id)
    const id = ++last
    const notice: Notice = { id, text, trouble: options.trouble ?? false }
    if (options.action) notice.action = options.action
    list.value = [...list.value.slice(-2), notice]
    window.setTimeout(() => drop(id), options.trouble || options.action ? 9000 : 5000)
  }

  function report(error: unknown) {
    const text = error instanceof ApiProblem ? error.message : 'Something went wrong on this page. Everything kept so far is safe; reload the page.'
    if (!(error instanceof ApiProblem)) console.error(error)
    say(text, { trouble: true })
  }

  return { list, say, report, drop }
})
