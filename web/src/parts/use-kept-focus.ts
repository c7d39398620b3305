import { useActiveElement, useEventListener, useMutationObserver } from '@vueuse/core'
import { nextTick, watch } from 'vue'

const REACHABLE = 'button:not(:disabled), a[href], input:not(:disabled), textarea:not(:disabled), [tabindex]:not([tabindex="-1"])'

/** Whoever works by key is never thrown back to the beginning: where what had the focus goes away or can not be pressed any more, what stands nearest to it has it. */
export function useKeptFocus() {
  let around: HTMLElement[] = []
  useEventListener(document, 'focusin', (event) => {
    around = []
    for (let one = event.target as HTMLElement | null; one && one !== document.body; one = one.parentElement) around.push(one)
  })

  async function keep() {
    await nextTick()
    const [lost, ...outward] = around
    const here = document.activeElement
    if (!lost || (lost.isConnected && !lost.matches(':disabled')) || (here && here !== document.body && here !== lost)) return
    const reachable = (place: HTMLElement) => [...place.querySelectorAll<HTMLElement>(REACHABLE)].find((one) => one.checkVisibility())
    outward
      .filter((one) => one.isConnected)
      .map(reachable)
      .find((one) => one)
      ?.focus({ preventScroll: true })
  }

  watch(useActiveElement({ triggerOnRemoval: true }), (now) => {
    if (!now || now === document.body) void keep()
  })
  useMutationObserver(document.body, keep, { subtree: true, attributes: true, attributeFilter: ['disabled'] })
}
