import { shallowRef, watch } from 'vue'

/** What is to be shown, once the pictures it needs are there: until then what was shown before stays. */
export function useReady<T>(value: () => T, parts: () => string[] | undefined) {
  const shown = shallowRef(value())
  watch(value, async (now) => {
    const loads = (parts() ?? []).map((part) => {
      const image = new Image()
      image.src = part
      return image.decode().catch(() => {})
    })
    if (loads.length) await Promise.all(loads)
    if (now === value()) shown.value = now
  })
  return shown
}
