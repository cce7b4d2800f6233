"""Pictures and files for download: checked by what is in them, kept under the hash of it."""
