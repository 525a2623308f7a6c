"""What every other package rests on: errors, derivations, numbers and dates as text, ordinary quantities."""
