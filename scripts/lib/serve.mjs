// A server in a process of its own: what it is given stands in its one argument, as JSON.
const { entry, ...options } = JSON.parse(process.argv[2]);
const { startServer } = await import(entry);
const server = await startServer(options);
for (const signal of ['SIGINT', 'SIGTERM'])
  process.on(signal, async () => {
    await server.close();
    process.exit(0);
  });
