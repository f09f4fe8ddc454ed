import { askAgain } from "./queries";

/** Listens for changes while somebody is signed in; everything on screen is asked for again, gathered for a moment. */
export async function listen(): Promise<() => void> {
  const { HubConnectionBuilder, LogLevel } = await import("@microsoft/signalr");
  const connection = new HubConnectionBuilder()
    .withUrl("/live")
    .withAutomaticReconnect([0, 500, 1000, 2000, 5000, 5000, 10000, 10000])
    .configureLogging(LogLevel.None)
    .build();
  let waiting = false;
  const changed = () => {
    if (waiting) return;
    waiting = true;
    setTimeout(() => {
      waiting = false;
      void askAgain();
    }, 120);
  };
  connection.on("changed", changed);
  connection.onreconnected(changed);
  await connection.start().catch(() => undefined);
  return () => void connection.stop();
}
