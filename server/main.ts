import { makeServer } from "./app";

const port = Number(process.env.PORT ?? 4170);
const server = await makeServer({ app: "dist/app", demo: "dist/demo" });
try {
  const address = await server.listen({ host: "127.0.0.1", port });
  console.log(`Vise is at ${address}`);
} catch (error) {
  if ((error as NodeJS.ErrnoException).code !== "EADDRINUSE") throw error;
  const address = await server.listen({ host: "127.0.0.1", port: 0 });
  console.log(`Port ${port} is taken. Vise is at ${address}`);
}
