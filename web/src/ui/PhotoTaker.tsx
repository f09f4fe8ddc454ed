import { useState } from "react";
import { newId } from "../api/client";
import { askAgain } from "../api/queries";
import { sendPhoto } from "../api/upload";
import { ProblemNote } from "./Field";

/** Takes a photo with the phone, or picks one, sends it and hands over its id. */
export function PhotoTaker({
  buildId,
  label,
  caption,
  onTaken,
}: {
  buildId: string;
  label: string;
  caption: string;
  onTaken: (id: string) => void;
}) {
  const [share, setShare] = useState<number | null>(null);
  const [failed, setFailed] = useState<unknown>(null);
  const take = async (file: File) => {
    const id = newId();
    setShare(0);
    setFailed(null);
    try {
      await sendPhoto(buildId, id, file, { caption }, setShare);
      await askAgain();
      onTaken(id);
    } catch (e) {
      setFailed(e);
    } finally {
      setShare(null);
    }
  };
  return (
    <div className="col-span-2">
      <label className="field">
        <span>{share === null ? label : `Sending, ${Math.round(share * 100)} %`}</span>
        <input
          type="file"
          accept="image/*"
          capture="environment"
          disabled={share !== null}
          onChange={(e) => e.target.files?.[0] && void take(e.target.files[0])}
        />
      </label>
      <ProblemNote problem={failed} />
    </div>
  );
}
