import { onMounted } from 'vue'
import { useRouter } from 'vue-router'
import { useBench } from './bench'
import { useNotices } from './notices'

/** Opens the job a view is for; where it cannot be opened, that is said on the board. */
export function useOpenJob(job: () => string, opened?: () => void) {
  const bench = useBench()
  const notices = useNotices()
  const router = useRouter()
  onMounted(async () => {
    try {
      if (bench.job?.id !== job()) bench.close()
      await bench.open(job())
      opened?.()
    } catch (error) {
      notices.report(error)
      await router.push({ name: 'board' })
    }
  })
}
