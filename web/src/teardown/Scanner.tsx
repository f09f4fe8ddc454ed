import { useEffect, useState } from "react";
import { Sheet } from "../ui/Sheet";

/** Reads a square code with the camera and hands over its words; where there is no camera it says so, and typing always works. */
export function Scanner({ onRead, onClose }: { onRead: (text: string) => void; onClose: () => void }) {
  // The sheet is drawn a moment after this: the camera waits for its picture.
  const [video, setVideo] = useState<HTMLVideoElement | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    if (!video) return;
    let stop = () => undefined as undefined;
    let over = false;
    const begin = async () => {
      if (!navigator.mediaDevices?.getUserMedia) throw new Error("no camera");
      const { BrowserQRCodeReader } = await import("@zxing/browser");
      const controls = await new BrowserQRCodeReader().decodeFromConstraints({ video: { facingMode: "environment" } }, video, (result) => {
        if (result && !over) {
          over = true;
          controls.stop();
          onRead(result.getText());
        }
      });
      stop = () => {
        controls.stop();
        return undefined;
      };
      if (over) controls.stop();
    };
    begin().catch(() => setProblem("This browser gives no camera here. Type the number that stands on the label."));
    return () => {
      over = true;
      stop();
    };
  }, [onRead, video]);
  return (
    <Sheet title="Hold the label before the camera" onClose={onClose}>
      {problem ? (
        <p role="alert" className="text-[15px]">
          {problem}
        </p>
      ) : (
        <video ref={setVideo} muted playsInline className="w-full bg-guide aspect-[4/3]" aria-label="What the camera sees" />
      )}
    </Sheet>
  );
}
