/** Has the page's worker keep the application's files, where there is one: a page that is served while it is written has none. */
export async function keepForLater(): Promise<void> {
  if (import.meta.env.DEV || !("serviceWorker" in navigator)) return;
  await navigator.serviceWorker.register("/sw.js", { updateViaCache: "none" });
}
