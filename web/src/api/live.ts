import { askAgain } from "./queries";

/** A figure as a gauge sends it. */
export type Pressed = { value: number; unit: "mm" | "inch" | "thou" };

const gauges = new Set<(pressed: Pressed) => void>();

/** Hears what the gauge of whoever is signed in sends, until it is called again. */
export function onGauge(hear: (pressed: Pressed) => void): () => void {
  gauges.add(hear);
  return () => void gauges.delete(hear);
}

/** What a gauge sends to this window: it goes to whatever began to listen last, and nowhere else. */
export const gaugeSends = (pressed: Pressed) => [...gauges].at(-1)?.(pressed);

/** Listens for changes while somebody is signed in; what they concern is asked for again, gathered for a moment. */
export async function listen(): Promise<() => void> {
  const { HubConnectionBuilder, LogLevel } = await import("@microsoft/signalr");
  const connection = new HubConnectionBuilder()
    .withUrl("/live")
    .withAutomaticReconnect([0, 500, 1000, 2000, 5000, 5000, 10000, 10000])
    .configureLogging(LogLevel.None)
    .build();
  const kinds = new Set<string>();
  connection.on("changed", (kind: string) => {
    if (kinds.size === 0)
      setTimeout(() => {
        const told = new Set(kinds);
        kinds.clear();
        void askAgain(told);
      }, 120);
    kinds.add(kind);
  });
  connection.on("gauge", gaugeSends);
  // Nobody told what happened meanwhile.
  connection.onreconnected(() => void askAgain());
  await connection.start().catch(() => undefined);
  return () => void connection.stop();
}
