import { insertNodeAt, removeNode, useSortable } from '@vueuse/integrations/useSortable'
import type { Ref } from 'vue'

/** Entries of a list that change places by dragging, with the hand, a pen or a finger. The list itself is put in order by the server. */
export function useOrder(
  list: Ref<HTMLElement | null | undefined>,
  moved: (from: number, to: number) => void,
  direction: 'vertical' | 'horizontal' = 'vertical',
) {
  return useSortable(list, [], {
    direction,
    watchElement: true,
    // Drawn by the page: the same under every hand, and no ghost of the system.
    forceFallback: true,
    fallbackTolerance: 4,
    delay: 180,
    delayOnTouchOnly: true,
    animation: 120,
    filter: 'input, .still',
    preventOnFilter: false,
    ghostClass: 'lifted',
    onUpdate: (event) => {
      const { oldDraggableIndex: from, newDraggableIndex: to } = event
      // What was moved goes back to where it was; it comes to its place with the answer.
      removeNode(event.item)
      insertNodeAt(event.from, event.item, event.oldIndex ?? 0)
      if (from !== undefined && to !== undefined && from !== to) moved(from, to)
    },
  })
}
