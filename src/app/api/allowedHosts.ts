/** Names that this app answers to: its own on this machine, and those of GORMIT_HOSTS (with commas between). */
export function allowedHosts(): readonly string[] {
  return [
    "localhost",
    "127.0.0.1",
    "[::1]",
    ...(process.env.GORMIT_HOSTS ?? "")
      .split(",")
      .map((host) => host.trim().toLowerCase())
      .filter((host) => host !== ""),
  ];
}
