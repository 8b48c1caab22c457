const made = new Map<string, unknown>()

/** Slanted lines over what is not there. */
export function hatch(colour: string): unknown {
  const before = made.get(colour)
  if (before) return before
  const canvas = document.createElement('canvas')
  canvas.width = canvas.height = 8
  const pen = canvas.getContext('2d')
  if (pen) {
    pen.strokeStyle = colour
    pen.globalAlpha = 0.45
    pen.beginPath()
    for (const [x1, y1, x2, y2] of [
      [-2, 10, 10, -2],
      [-2, 2, 2, -2],
      [6, 10, 10, 6],
    ] as const) {
      pen.moveTo(x1, y1)
      pen.lineTo(x2, y2)
    }
    pen.stroke()
  }
  const pattern = { image: canvas, repeat: 'repeat' }
  made.set(colour, pattern)
  return pattern
}
