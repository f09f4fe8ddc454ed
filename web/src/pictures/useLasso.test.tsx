import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { useRef } from "react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { centreOf, cornersOf, useLasso } from "./useLasso";

vi.mock("../geometry", async (original) => ({
  ...(await original<typeof import("../geometry")>()),
  pointAt: (_: unknown, e: { clientX: number; clientY: number }) => ({ x: e.clientX, y: e.clientY }),
}));

function Drawing({ onDraw }: { onDraw?: (place: string, area: { x: number; y: number }[]) => void }) {
  const group = useRef<SVGGElement>(null);
  const lasso = useLasso(group, onDraw);
  return (
    <svg>
      <title>map</title>
      <g ref={group}>
        <path data-testid="roof" {...lasso.on("roof")} />
        {lasso.drawn}
      </g>
    </svg>
  );
}

const line = (...points: [number, number][]) => points.map(([x, y]) => ({ x, y }));
// The test's document has no pointer events of its own: a mouse event with the same name carries the place.
const move = (kind: string, x: number, y: number) =>
  fireEvent(screen.getByTestId("roof"), new MouseEvent(kind, { bubbles: true, clientX: x, clientY: y }));

afterEach(cleanup);

describe("an area drawn by hand", () => {
  it("keeps the corners that say something", () => {
    expect(cornersOf(line([0, 0], [0.4, 0.2], [10, 0], [10.9, 0], [10, 10]))).toEqual(line([0, 0], [10, 0], [10, 10]));
    expect(cornersOf(Array.from({ length: 900 }, (_, i) => ({ x: i * 2, y: 0 }))).length).toBeLessThanOrEqual(120);
  });
  it("stands at its middle", () => expect(centreOf(line([0, 0], [10, 0], [10, 10], [0, 10]))).toEqual({ x: 5, y: 5 }));
  it("hands over place and corners when it is let go, and nothing for a slip", () => {
    const drawn = vi.fn();
    render(<Drawing onDraw={drawn} />);
    move("pointerdown", 10, 10);
    move("pointermove", 30, 10);
    move("pointermove", 30, 40);
    move("pointerup", 30, 40);
    expect(drawn).toHaveBeenCalledExactlyOnceWith("roof", line([10, 10], [30, 10], [30, 40]));
    move("pointerdown", 10, 10);
    move("pointerup", 10, 10);
    expect(drawn).toHaveBeenCalledTimes(1);
  });
  it("loses no corner when the machine is too busy to draw between them", () => {
    const drawn = vi.fn();
    render(<Drawing onDraw={drawn} />);
    act(() => {
      move("pointerdown", 10, 10);
      move("pointermove", 30, 10);
      move("pointermove", 30, 40);
      move("pointerup", 30, 40);
    });
    expect(drawn).toHaveBeenCalledExactlyOnceWith("roof", line([10, 10], [30, 10], [30, 40]));
  });
  it("leaves taps alone when nothing is drawn", () => {
    render(<Drawing />);
    move("pointerdown", 10, 10);
    expect(document.querySelector("path[fill-opacity]")).toBeNull();
  });
});
