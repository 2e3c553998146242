/** What colour and shape something has on a line of time: the kind of thing it does. */
export const CATEGORIES = ['data', 'people', 'time', 'outside', 'stop'] as const
export type Category = (typeof CATEGORIES)[number]
