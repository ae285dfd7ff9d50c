'use client'
import { useEffect, useRef } from 'react'

/** Draws a bitmap made by a worker. */
export function Bitmap({
  bitmap,
  width,
  height,
  label,
  className = '',
}: {
  bitmap: ImageBitmap | undefined
  width: number
  height: number
  label: string
  className?: string
}) {
  const surface = useRef<HTMLCanvasElement>(null)
  useEffect(() => {
    const canvas = surface.current
    if (!canvas || !bitmap) return
    const context = canvas.getContext('2d')!
    const scale = Math.max(canvas.width / bitmap.width, canvas.height / bitmap.height)
    context.clearRect(0, 0, canvas.width, canvas.height)
    context.imageSmoothingQuality = 'high'
    try {
      context.drawImage(
        bitmap,
        (canvas.width - bitmap.width * scale) / 2,
        (canvas.height - bitmap.height * scale) / 2,
        bitmap.width * scale,
        bitmap.height * scale,
      )
    } catch {
      /* closed meanwhile: the next one is on its way */
    }
  }, [bitmap])
  return (
    <canvas
      ref={surface}
      role="img"
      aria-label={label}
      width={width * 2}
      height={height * 2}
      style={{ width, height }}
      className={`shrink-0 rounded-[3px] bg-[#111] ${className}`}
    />
  )
}
