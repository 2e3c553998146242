// ESLint 10 with the Nuxt rules uses Object.groupBy, which Node 20 does not have yet.
Object.groupBy ??= (items, keyOf) => {
  const groups = Object.create(null)
  for (const [i, item] of [...items].entries()) (groups[keyOf(item, i)] ??= []).push(item)
  return groups
}
