/** Saves what a page has in its hands as a file. */

export function saveAs(content: Blob, name: string): void {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(content);
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}

/** Fetches a file and saves it; throws the server's own sentence if it is not handed out. */
export async function saveFrom(address: string, name: string): Promise<void> {
  const answer = await fetch(address);
  if (!answer.ok) {
    const said = (await answer.json().catch(() => null)) as { error?: { message?: string } } | null;
    throw new Error(said?.error?.message ?? "The file could not be fetched.");
  }
  saveAs(await answer.blob(), name);
}
