#!/usr/bin/env bash
# The browser of the web tests: Debian's Chromium, by preference its headless shell, which draws a page in half the time.
# Says clearly what to do where neither can be installed.
set -u
command -v chromium-headless-shell >/dev/null && exit 0
say() { printf '%s\n' "$@" >&2; }
known() { command -v chromium >/dev/null; }
if ! command -v apt-get >/dev/null; then
  known && exit 0
  say "The browser tests need the command 'chromium', and this machine has no apt-get to install it with." \
      "Install Chromium by your system's own means, then run 'make test' again."
  exit 1
fi
as_root=""
if [ "$(id -u)" != 0 ]; then
  known && exit 0
  command -v sudo >/dev/null || { say "Chromium is missing. As root: apt-get install chromium-headless-shell"; exit 1; }
  as_root="sudo"
fi
say "Installing Chromium from Debian's packages (about a minute) …"
log=$(mktemp)
install() { DEBIAN_FRONTEND=noninteractive $as_root apt-get install -y -qq --no-install-recommends "$1"; }
$as_root apt-get update -qq >"$log" 2>&1
install chromium-headless-shell >>"$log" 2>&1 || known || install chromium >>"$log" 2>&1 || {
  tail -n 15 "$log" >&2
  say "Chromium could not be installed. Install it by hand (apt-get install chromium), then run 'make test' again."
  exit 1
}
