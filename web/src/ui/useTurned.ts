import { useEffect, useRef, useState, type PointerEvent, type RefObject } from 'react';

/** Degrees a pixel turns a picture round and over. */
const ROUND = 0.5;
const OVER = 0.4;

/** A picture that drags round: its frame, how large that is, how it is turned, and what takes the drag. */
export interface Turned {
  frame: RefObject<HTMLDivElement | null>;
  /** pixels; absent until it is laid out */
  size?: [width: number, height: number];
  /** degrees round and over */
  turn: [round: number, over: number];
  drag: { onPointerDown(e: PointerEvent<HTMLElement>): void; onPointerMove(e: PointerEvent<HTMLElement>): void; onPointerUp(): void };
}

/** @param from how it is turned at first */
export function useTurned(from: [round: number, over: number]): Turned {
  const frame = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState<[number, number]>();
  const [turn, setTurn] = useState(from);
  const held = useRef<{ x: number; y: number; turn: [number, number] }>(undefined);
  useEffect(() => {
    const el = frame.current;
    if (!el) return;
    const observer = new ResizeObserver(([e]) => setSize([Math.round(e.contentRect.width), Math.round(e.contentRect.height)]));
    observer.observe(el);
    return () => observer.disconnect();
  }, []);
  return {
    frame,
    size,
    turn,
    drag: {
      onPointerDown: (e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        held.current = { x: e.clientX, y: e.clientY, turn };
      },
      onPointerMove: (e) => {
        const start = held.current;
        if (start) setTurn([start.turn[0] - (e.clientX - start.x) * ROUND, Math.max(-80, Math.min(85, start.turn[1] + (e.clientY - start.y) * OVER))]);
      },
      onPointerUp: () => (held.current = undefined),
    },
  };
}
