"""Lets ``python -m olive_compass`` do what the console script does."""

import sys

from olive_compass.cli.main import main

sys.exit(main())
