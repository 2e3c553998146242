/** What is kept so that a part of it can be dropped: each change leaves behind how it is taken back. */
export class UndoLog {
  protected readonly undo: (() => void)[] = []
  protected inside = 0

  atomically<T>(work: () => T): T {
    const mark = this.undo.length
    this.inside++
    try {
      return work()
    } catch (error) {
      while (this.undo.length > mark) this.undo.pop()?.()
      throw error
    } finally {
      this.inside--
      if (this.inside === 0) this.undo.length = 0
    }
  }

  protected undoable(undo: () => void): void {
    if (this.inside > 0) this.undo.push(undo)
  }

  protected put<K, V>(map: Map<K, V>, key: K, value: V): void {
    const old = map.get(key)
    const had = old !== undefined || map.has(key)
    map.set(key, value)
    if (this.inside === 0) return
    this.undo.push(() => {
      if (had) map.set(key, old as V)
      else map.delete(key)
    })
  }

  protected push<V>(list: V[], value: V): void {
    list.push(value)
    this.undoable(() => {
      list.splice(list.lastIndexOf(value), 1)
    })
  }

  protected pushTo<K, V>(map: Map<K, V[]>, key: K, value: V): void {
    const list = map.get(key)
    if (list) this.push(list, value)
    else this.put(map, key, [value])
  }
}
