const SIZE = 4.6

/** Marks of a reading: the shape says which instrument. Circle, diamond, square, triangle, in the strip's order. */
export function shapePath(index: number, x: number, y: number, size = 1): string {
  const s = SIZE * size
  switch (((index % 4) + 4) % 4) {
    case 1:
      return `M${x} ${y - s - 1}L${x + s + 1} ${y}L${x} ${y + s + 1}L${x - s - 1} ${y}Z`
    case 2:
      return `M${x - s + 0.5} ${y - s + 0.5}h${2 * s - 1}v${2 * s - 1}h${-2 * s + 1}Z`
    case 3:
      return `M${x} ${y - s - 1}L${x + s + 1} ${y + s}L${x - s - 1} ${y + s}Z`
    default:
      return `M${x - s} ${y}a${s} ${s} 0 1 0 ${2 * s} 0a${s} ${s} 0 1 0 ${-2 * s} 0Z`
  }
}
