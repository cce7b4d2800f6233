"""What is filled in by the shop: collections, records and their types, shared copy."""
