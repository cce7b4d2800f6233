"""The pages shoppers see, live and in the proof."""
