let template: Promise<string> | null = null;

/** The player's page without an instrument; loaded once, while the server is there. */
export function playerTemplate(): Promise<string> {
  template ??= fetch("/player-template.html")
    .then((reply) => {
      if (!reply.ok) throw new Error("the player's template isn't on the server");
      return reply.text();
    })
    .catch((error: unknown) => {
      template = null;
      throw error;
    });
  return template;
}
