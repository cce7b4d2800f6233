"""What routes of several stages share: those all nouns have, own fields, uploads and downloads."""
