import { hush, useSaid } from "./say";

/** The words of the moment, for the masthead or a phone's foot: a mark before them, a touch takes them away. */
export function Said({ className = "" }: { className?: string }) {
  const said = useSaid();
  return (
    <div className={`said ${className}`} role="status" aria-live="polite">
      {said && (
        <button
          key={said.n}
          type="button"
          className={`said-words ${said.kind === "wrong" ? "text-oxide" : ""}`}
          title={said.text}
          onClick={hush}
        >
          <svg width="10" height="14" viewBox="0 0 10 14" aria-hidden="true">
            <path
              d={said.kind === "wrong" ? "M2,1h6v8h-6ZM2,11h6v2h-6Z" : "M0,8l4,4L10,2"}
              fill={said.kind === "wrong" ? "currentColor" : "none"}
              stroke={said.kind === "wrong" ? "none" : "currentColor"}
              strokeWidth="2.4"
            />
          </svg>
          <span>{said.text}</span>
        </button>
      )}
    </div>
  );
}
