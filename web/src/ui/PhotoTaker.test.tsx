import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { draw } from "../testing";
import { PhotoTaker } from "./PhotoTaker";

const sendPhoto = vi.fn();
vi.mock("../api/upload", () => ({ sendPhoto: (...args: unknown[]) => sendPhoto(...args) }));

const pick = () =>
  fireEvent.change(screen.getByLabelText("Take it now"), { target: { files: [new File(["x"], "a.jpg", { type: "image/jpeg" })] } });

afterEach(() => {
  cleanup();
  sendPhoto.mockReset();
});

describe("taking a photo where the work is", () => {
  it("sends it with what it shows and hands over its id", async () => {
    sendPhoto.mockResolvedValue(undefined);
    const taken = vi.fn();
    draw(<PhotoTaker buildId="b41" label="Take it now" caption="Rail, left door" onTaken={taken} />);
    pick();
    await waitFor(() => expect(taken).toHaveBeenCalledTimes(1));
    const [build, id, , words] = sendPhoto.mock.calls[0] ?? [];
    expect([build, words]).toEqual(["b41", { caption: "Rail, left door" }]);
    expect(taken).toHaveBeenCalledWith(id);
  });
  it("says what went wrong and hands over nothing", async () => {
    sendPhoto.mockRejectedValue(new Error("No connection: this was not sent and is not kept. Try again."));
    const taken = vi.fn();
    draw(<PhotoTaker buildId="b41" label="Take it now" caption="" onTaken={taken} />);
    pick();
    expect((await screen.findByRole("alert")).textContent).toContain("was not sent");
    expect(taken).not.toHaveBeenCalled();
  });
});
