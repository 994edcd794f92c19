/** What keeps a page from going on, in a sentence; nothing where nothing does. */
export function Problem({ children }: { children: string | null | undefined }) {
  return children ? (
    <div className="finding stop" role="alert">
      {children}
    </div>
  ) : null;
}
