"""The kinds of jobs, how they are asked for, run and told; files seen to now and then."""
