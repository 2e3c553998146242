import { computed, nextTick, ref, watch, type Ref } from 'vue'

const asText = (value: unknown): string => JSON.stringify(value)
const copyOf = <T>(value: T): T => JSON.parse(asText(value)) as T

/**
 * What somebody writes over something that is saved. What others save comes in as long as nothing is written here;
 * otherwise it is told, and what is written stays. `of` names the item: another one begins anew. Both are plain data.
 */
export function draftOf<T>(saved: () => T, of: () => unknown = () => null) {
  const written = ref(copyOf(saved())) as Ref<T>
  /** Somebody else has saved it since this was begun. */
  const elsewhere = ref(false)
  /** What is being saved just now. */
  const sent = ref<string | null>(null)

  /** Leaves what is written for what is saved. */
  function take(): void {
    written.value = copyOf(saved())
    sent.value = null
    elsewhere.value = false
  }

  watch(() => asText(of()), take)
  watch(
    () => asText(saved()),
    (now, before) => {
      const mine = asText(written.value)
      if (mine === before || mine === now) take()
      // What comes while one saves is most often one's own.
      else if (sent.value === null) elsewhere.value = true
    },
  )

  return {
    written,
    elsewhere,
    /** Something stands here that is saved nowhere. */
    dirty: computed(() => asText(written.value) !== (sent.value ?? asText(saved()))),
    take,
    /**
     * Saves what is written now by `work`, which brings back what is saved then, and answers nothing where it was
     * refused. What was written meanwhile stays, to be saved next.
     */
    async save(work: (written: T) => Promise<unknown>): Promise<void> {
      const [item, before, mine] = [asText(of()), asText(saved()), asText(written.value)]
      sent.value = mine
      try {
        const answer = await work(copyOf(written.value))
        // What it brought is looked at while it is known to be one's own.
        await nextTick()
        if (asText(of()) !== item) return
        if (!answer) elsewhere.value ||= asText(saved()) !== before
        else if (asText(written.value) === mine) take()
        else elsewhere.value = false
      } finally {
        sent.value = null
      }
    },
  }
}
