/** A section of a page with what can be done to it as a whole. */
export function Section({
  title,
  action,
  onAction,
  children,
}: {
  title: string;
  action: string;
  onAction: () => void;
  children: React.ReactNode;
}) {
  return (
    <section aria-label={title}>
      <div className="flex items-baseline border-t border-ink pt-2 mb-1">
        <h2 className="flex-1">{title}</h2>
        <button type="button" className="btn" onClick={onAction}>
          {action}
        </button>
      </div>
      {children}
    </section>
  );
}
