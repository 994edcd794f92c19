/** A canvas made ready to be drawn on: empty, as sharp as the screen is, and measured in the pixels of the page. */
export function cleanCanvas(
  canvas: HTMLCanvasElement | null,
  { widthPx, heightPx }: { widthPx: number; heightPx: number },
): CanvasRenderingContext2D | null {
  const context = canvas?.getContext("2d");
  if (!canvas || !context) return null;
  // Beyond two device pixels nothing more can be seen, and it costs as much again.
  const ratio = Math.min(2, window.devicePixelRatio || 1);
  canvas.width = Math.round(widthPx * ratio);
  canvas.height = Math.round(heightPx * ratio);
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  context.clearRect(0, 0, widthPx, heightPx);
  return context;
}
