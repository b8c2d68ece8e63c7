"""`python -m redcrate`."""

from redcrate.cli.main import main

if __name__ == "__main__":
    main()
