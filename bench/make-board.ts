/** Sends a CSV through the import, as a user's browser does, and returns the dataset's id. */
export async function importCsv(url: string, name: string, csv: string): Promise<string> {
  const sent = await (
    await fetch(`${url}/api/imports?name=${encodeURIComponent(name)}.csv`, { method: 'POST', body: csv })
  ).json();
  let state = sent;
  while (state.state === 'loading') {
    await new Promise((done) => setTimeout(done, 50));
    state = await (await fetch(`${url}/api/imports/${sent.id}`)).json();
  }
  return state.dataset;
}

/** Saves a board and returns its id. */
export async function saveBoard(url: string, document: object): Promise<string> {
  const made = await fetch(`${url}/api/boards`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ document }),
  });
  const answer = await made.json();
  if (!made.ok) throw new Error(JSON.stringify(answer));
  return answer.id;
}
