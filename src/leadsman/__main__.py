"""`python -m leadsman`."""

from leadsman.cli import main

raise SystemExit(main())
