import { useDebounceFn } from '@vueuse/core'

/** Asks a moment after it was last called. Of several questions on their way only the answer to the newest is taken: one that comes late says what was asked before. */
export function useNewest<Answer>(
  ask: () => Promise<Answer> | null,
  take: (answer: Answer) => void,
  refused: (error: unknown) => void,
  wait = 60,
) {
  let asked = 0
  return useDebounceFn(async () => {
    const mine = ++asked
    try {
      const answer = await ask()
      if (mine === asked && answer !== null) take(answer)
    } catch (error) {
      if (mine === asked) refused(error)
    }
  }, wait)
}
