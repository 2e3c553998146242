/** So long a page may take to stand; whoever waits for a slower one goes on without. */
const PATIENCE_MS = 10_000

/** Goes to a page, and is done once it stands: until then the one before it is still shown, and can be pressed. */
export async function goTo(path: string): Promise<void> {
  const { hooks } = useNuxtApp()
  let stay = (): void => undefined
  const stands = new Promise<void>((done) => {
    stay = hooks.hookOnce('page:finish', () => done())
    setTimeout(done, PATIENCE_MS)
  })
  if (await useRouter().push(path)) stay()
  else await stands
}
