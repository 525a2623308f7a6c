"""`python -m salttide`."""

from salttide.cli import main

main()
