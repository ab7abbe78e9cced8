// Waits until an address answers 200: node wait-for.mjs URL PID. Fails when the process ends first, or after two minutes.
const [url, pid] = process.argv.slice(2);
const until = Date.now() + 120_000;
while (Date.now() < until) {
  try {
    process.kill(Number(pid), 0);
  } catch {
    process.exit(1);
  }
  const answer = await fetch(url).catch(() => null);
  if (answer?.ok) process.exit(0);
  await new Promise((resolve) => setTimeout(resolve, 100));
}
process.exit(1);
