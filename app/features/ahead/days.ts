import { workdaysOf } from '#core/rules/clock'
import { isWorkday } from '#core/time/calendar'
import { useCatalogue } from '~/shared/stores/catalogue'

/** So many days are asked about, and so many of them fit beside each other. */
export const DAYS = 35
export const SHOWN = 14

/** When people do not work: by the calendar of their team, and when they are away. */
export function useDaysOff() {
  const store = useCatalogue()
  return {
    isOff: (date: string, personId: string | null = null): boolean =>
      !isWorkday(date, workdaysOf(store.catalogue, personId)),
    isAway(personId: string, date: string): boolean {
      const person = store.catalogue.person(personId)
      return person?.awayFrom != null && person.awayTo != null && date >= person.awayFrom && date <= person.awayTo
    },
  }
}
