"""The files of a page: load, save, copy, changes on disk, unsaved work, settings."""
