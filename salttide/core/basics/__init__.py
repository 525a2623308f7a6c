"""What every other package stands on: errors, derivations, numbers and dates as text, ordinary quantities."""
