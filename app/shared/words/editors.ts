/**
 * The editors of all kinds of words. They carry time, recurrence and formulas with them, so a page is shown without
 * them and fetches them when it stands, before anybody can have pressed a word.
 */
export const loadEditors = () => import('./WidgetEditor.vue')
