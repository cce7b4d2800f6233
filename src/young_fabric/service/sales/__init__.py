"""What is sold: choices quoted, baskets, orders, files shoppers send, and the grid of variants."""
