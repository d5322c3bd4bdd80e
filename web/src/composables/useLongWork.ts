import { onBeforeUnmount, ref, type Ref } from 'vue'
import type { LongReply } from '../workers/longWork.ts'

export interface LongWork<Q, A> {
  readonly isRunning: Ref<boolean>
  /** Why there is no answer; empty where there is, or will be. */
  readonly failure: Ref<string>
  /** Whether it was stopped before it was done. */
  readonly wasStopped: Ref<boolean>
  /** Begins anew: what is under way is ended. */
  begin(question: Q, hear: (answer: A) => void): void
  end(): void
  /** Ends it because somebody asks for that. */
  stop(): void
}

/** Work in a worker of its own, which is ended by ending the worker; with the page it ends, too. */
export const useLongWork = <Q, A>(create: () => Worker): LongWork<Q, A> => {
  const isRunning = ref(false)
  const failure = ref('')
  const wasStopped = ref(false)
  let worker: Worker | null = null
  const end = (): void => {
    worker?.terminate()
    worker = null
    isRunning.value = false
  }
  onBeforeUnmount(end)
  return {
    isRunning,
    failure,
    wasStopped,
    end,
    stop() {
      if (isRunning.value) wasStopped.value = true
      end()
    },
    begin(question, hear) {
      end()
      failure.value = ''
      wasStopped.value = false
      isRunning.value = true
      worker = create()
      worker.onmessage = ({ data }: MessageEvent<LongReply<A>>): void => {
        if (data.kind === 'answer') return hear(data.answer)
        if (data.kind === 'failed') failure.value = data.message
        end()
      }
      worker.onerror = (event): void => {
        failure.value = event.message || 'the computation failed'
        end()
      }
      worker.postMessage(question)
    },
  }
}
