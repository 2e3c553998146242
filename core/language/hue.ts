/** What colour and shape something has on a line of time: the kind of thing it does. */
export const HUES = ['data', 'people', 'time', 'outside', 'stop'] as const
export type Hue = (typeof HUES)[number]
