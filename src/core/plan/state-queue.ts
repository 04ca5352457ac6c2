/** States in a queue by priority, the highest first; among equals the one with the smaller rank. A binary heap. */
export class StateQueue {
  private readonly heap: Int32Array
  /** [states] where a state is in the heap, -1 when it is not in the queue */
  private readonly place: Int32Array
  private size = 0

  /**
   * @param priority  [states] read when comparing; after changing one, call `moved`
   * @param states    what is in the queue
   */
  constructor(
    private readonly priority: Float64Array,
    private readonly rank: Int32Array,
    states: Int32Array,
  ) {
    this.heap = new Int32Array(states.length)
    this.place = new Int32Array(priority.length).fill(-1)
    for (const state of states) {
      this.heap[this.size] = state
      this.place[state] = this.size
      this.rise(this.size++)
    }
  }

  top(): number {
    return this.heap[0]
  }

  /** Puts a state of the queue where its priority belongs. */
  moved(state: number): void {
    const place = this.place[state]
    if (place < 0) return
    this.rise(place)
    this.sink(this.place[state])
  }

  /** Puts everything where it belongs after any number of priorities changed. */
  rebuild(): void {
    for (let at = (this.size >> 1) - 1; at >= 0; at--) this.sink(at)
  }

  private goesBefore(x: number, y: number): boolean {
    const { priority, rank } = this
    return priority[x] > priority[y] || (priority[x] === priority[y] && rank[x] < rank[y])
  }

  private rise(from: number): void {
    const { heap, place } = this
    const state = heap[from]
    let at = from
    while (at > 0) {
      const parent = (at - 1) >> 1
      if (!this.goesBefore(state, heap[parent])) break
      heap[at] = heap[parent]
      place[heap[at]] = at
      at = parent
    }
    heap[at] = state
    place[state] = at
  }

  private sink(from: number): void {
    const { heap, place, size } = this
    const state = heap[from]
    let at = from
    for (;;) {
      let child = 2 * at + 1
      if (child >= size) break
      if (child + 1 < size && this.goesBefore(heap[child + 1], heap[child])) child++
      if (!this.goesBefore(heap[child], state)) break
      heap[at] = heap[child]
      place[heap[at]] = at
      at = child
    }
    heap[at] = state
    place[state] = at
  }
}
