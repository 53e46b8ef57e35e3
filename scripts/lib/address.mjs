/** How a process on this machine reaches a server that listens on a host. */
export function addressOf(host) {
  if (host === '0.0.0.0') return '127.0.0.1';
  if (host === '::') return '[::1]';
  return host.includes(':') ? `[${host}]` : host;
}
