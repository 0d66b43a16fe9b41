/** A finger that moved less only touched. Units: CSS pixels */
const TOUCH_PX = 6;

/**
 * Follows a finger or mouse from where it came down until it is let go.
 * Shape:  `move` hears how far it is; `end` that it is over, however it ended; `drop` where it was let go, if it moved at all
 * Units:  CSS pixels
 */
export function followPointer(
  { clientX: fromX, clientY: fromY }: PointerEvent,
  {
    move,
    end,
    drop,
  }: {
    readonly move: (x: number, y: number) => void;
    readonly end: () => void;
    readonly drop: (x: number, y: number) => void;
  },
): void {
  const done = new AbortController();
  const { signal } = done;
  const over = (): void => {
    done.abort();
    end();
  };
  const isFar = ({ clientX, clientY }: PointerEvent): boolean =>
    Math.hypot(clientX - fromX, clientY - fromY) >= TOUCH_PX;
  document.addEventListener(
    'pointermove',
    (event) => {
      if (isFar(event)) move(event.clientX - fromX, event.clientY - fromY);
    },
    { signal },
  );
  document.addEventListener('pointercancel', over, { signal });
  document.addEventListener(
    'pointerup',
    (event) => {
      over();
      if (isFar(event)) drop(event.clientX, event.clientY);
    },
    { signal },
  );
}
