import { cleanup, screen, waitFor } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { draw } from "../testing";
import { Scanner } from "./Scanner";

const stop = vi.fn();
let heard: ((result: { getText: () => string } | undefined) => void) | null = null;
vi.mock("@zxing/browser", () => ({
  BrowserQRCodeReader: class {
    decodeFromConstraints(_c: unknown, _v: unknown, on: typeof heard) {
      heard = on;
      return Promise.resolve({ stop });
    }
  },
}));

const camera = (there: boolean) =>
  Object.defineProperty(navigator, "mediaDevices", { configurable: true, value: there ? { getUserMedia: vi.fn() } : undefined });

afterEach(() => {
  cleanup();
  stop.mockClear();
  heard = null;
});

describe("reading a label with the camera", () => {
  it("hands over the code once and lets the camera go", async () => {
    camera(true);
    const read = vi.fn();
    draw(<Scanner onRead={read} onClose={vi.fn()} />);
    await waitFor(() => expect(heard).not.toBeNull());
    heard?.(undefined);
    expect(read).not.toHaveBeenCalled();
    await waitFor(() => {
      heard?.({ getText: () => "FC 214 L" });
      expect(read).toHaveBeenCalledExactlyOnceWith("FC 214 L");
    });
    heard?.({ getText: () => "FC 215 L" });
    expect(read).toHaveBeenCalledTimes(1);
    expect(stop).toHaveBeenCalled();
  });
  it("says what to do where there is no camera", async () => {
    camera(false);
    draw(<Scanner onRead={vi.fn()} onClose={vi.fn()} />);
    expect((await screen.findByRole("alert")).textContent).toContain("Type the number");
  });
});
