/**
 * One quiet place in which what happened is told to those who do not see it: moves, removals, counts, results. What is
 * told twice in a row is told again.
 */
export function useSpoken() {
  const spoken = useState('spoken', () => '')
  return {
    spoken: readonly(spoken),
    say(text: string): void {
      spoken.value = spoken.value === text ? `${text}\u200b` : text
    },
  }
}
