import { askAgain } from "./queries";

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
  // Nobody told what happened meanwhile.
  connection.onreconnected(() => void askAgain());
  await connection.start().catch(() => undefined);
  return () => void connection.stop();
}
