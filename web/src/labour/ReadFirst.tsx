import { useEffect, useRef } from "react";

/**
 * The caution of what is about to begin. It is read once on each build, by whoever begins; the button below it begins the
 * work.
 */
export function ReadFirst({ name, caution, onRead, onClose }: { name: string; caution: string; onRead: () => void; onClose: () => void }) {
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => {
    heading.current?.focus();
    heading.current?.scrollIntoView?.({ block: "center" });
  }, []);
  return (
    <section className="p-5 bg-p0 border-y border-p3" aria-label="Before you start">
      <h2 ref={heading} tabIndex={-1} className="!text-[22px] mb-2">
        Before you start “{name}”
      </h2>
      <Caution text={caution} />
      <div className="flex gap-2 mt-4">
        <button type="button" className="btn flex-1 min-h-15 text-[17px]" onClick={onClose}>
          Not now
        </button>
        <button type="button" className="btn btn-ink flex-[2] min-h-15 text-[19px]" onClick={onRead}>
          I have read this: start
        </button>
      </div>
    </section>
  );
}

/** A running job whose caution nobody has read: it was begun by another hand, or without a connection. */
export function NotReadYet({ caution, onRead, busy }: { caution: string; onRead: () => void; busy: boolean }) {
  return (
    <section className="p-5 bg-p0 border-b border-p3" aria-label="Not read yet">
      <h2 className="!text-[22px] mb-2">Not read yet</h2>
      <Caution text={caution} />
      <button type="button" className="btn btn-ink w-full min-h-15 text-[19px] mt-4" disabled={busy} onClick={onRead}>
        I have read this
      </button>
    </section>
  );
}

/** What to mind, and in smaller type what comes before it. */
function Caution({ text }: { text: string }) {
  const [, mind = text, first = ""] = text.match(/^(.*?)\s*(Local codes.*)$/) ?? [];
  return (
    <>
      <p className="text-[19px] leading-[1.3] font-[640]">{mind}</p>
      {first && <p className="text-[16px] text-ink2 mt-2">{first}</p>}
    </>
  );
}
