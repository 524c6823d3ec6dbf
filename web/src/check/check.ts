// Checks, without the server, that a sheet is as the desk signed it: the address in its code has the key's name, the fingerprint and the
// signature; the number and the revision are typed as they are printed. What is signed is written in app/statement.go.
import { verifyAsync } from '@noble/ed25519';

const bytes = (base64url: string) => Uint8Array.from(atob(base64url.replaceAll('-', '+').replaceAll('_', '/')), (c) => c.charCodeAt(0));
const hex = (all: Uint8Array) => Array.from(all, (b) => b.toString(16).padStart(2, '0')).join('');
const put = (id: string, text: string, good?: boolean) => {
  const e = document.getElementById(id)!;
  e.textContent = text;
  e.className = good === undefined ? '' : good ? 'standing good' : 'standing bad';
};

/** The keys of a list: a name on a line, then the key in PEM, whose last 32 bytes are the key itself (RFC 8410). */
function keysOf(text: string): Map<string, Uint8Array> {
  const all = new Map<string, Uint8Array>();
  for (const m of text.matchAll(/^(\S+)\n-----BEGIN PUBLIC KEY-----\n([\s\S]*?)-----END PUBLIC KEY-----/gm)) {
    all.set(m[1]!, bytes(m[2]!.replaceAll('\n', '').replaceAll('=', '')).slice(-32));
  }
  return all;
}

async function begin() {
  const code = decodeURIComponent(location.pathname.split('/').pop() ?? '')
    .trim()
    .toUpperCase();
  const [name, printed, signature] = (new URLSearchParams(location.search).get('r') ?? '').split('.');
  if (!name || !printed || !signature) return put('what', 'This code has no signature: it can be checked with network alone.', false);
  const key = keysOf(await (await fetch('keys')).text()).get(name);
  if (!key) return put('what', `It is signed by a key that this telephone does not know (${name}). Check it with network.`, false);
  const form = document.querySelector('form')!;
  form.hidden = false;
  form.addEventListener('submit', (e) => {
    e.preventDefault();
    void (async () => {
      const typed = (id: string) => (document.getElementById(id) as HTMLInputElement).value.trim().toUpperCase();
      const fingerprint = hex(bytes(printed));
      const text = `nexufix paper\n${code}\n${typed('number')}\n${typed('revision')}\n${fingerprint}\n`;
      const is = await verifyAsync(bytes(signature), new TextEncoder().encode(text), key).catch(() => false); // of another length, say
      put('answer', is ? 'Signed by the desk' : 'Not as it was issued', is);
      put(
        'why',
        is
          ? `The fingerprint on your sheet has to begin with ${fingerprint.slice(0, 16)}. Whether the sheet still holds, or is superseded or withdrawn, is not known without network: ask the desk before you drill.`
          : 'The number, the revision and the code do not belong together. Check what you typed; else do not work by the sheet, and ask who gave it to you.',
      );
    })().catch(() => put('answer', 'Not as it was issued', false)); // what cannot be read is no signature
  });
}

void begin().catch(() => put('what', 'The keys are not on this telephone. Check it with network.', false));
