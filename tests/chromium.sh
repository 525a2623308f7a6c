#!/usr/bin/env bash
# The browser of the web tests: Debian's Chromium. Says clearly what to do where it cannot be installed.
set -u
command -v chromium >/dev/null && exit 0
say() { printf '%s\n' "$@" >&2; }
if ! command -v apt-get >/dev/null; then
  say "The browser tests need the command 'chromium', and this machine has no apt-get to install it with." \
      "Install Chromium by your system's own means, then run 'make test' again."
  exit 1
fi
as_root=""
if [ "$(id -u)" != 0 ]; then
  command -v sudo >/dev/null || { say "Chromium is missing. As root: apt-get install chromium"; exit 1; }
  as_root="sudo"
fi
say "Installing Chromium from Debian's packages (about a minute) …"
log=$(mktemp)
if ! { $as_root apt-get update -qq && DEBIAN_FRONTEND=noninteractive $as_root apt-get install -y -qq --no-install-recommends chromium; } >"$log" 2>&1; then
  tail -n 15 "$log" >&2
  say "Chromium could not be installed. Install it by hand (apt-get install chromium), then run 'make test' again."
  exit 1
fi
