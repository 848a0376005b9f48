/** Until the page has had its turn: what is long is done in several tasks, so that it draws and answers in between. */
export const nextTask = (): Promise<void> => new Promise((resolve) => setTimeout(resolve));
