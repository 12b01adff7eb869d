"""What is assumed of a bench until it is learned."""

BENCH_REPEATABILITY = 0.005  # of reading, until a bench's own is learned; common practice, no source
SESSION_SHIFT = 0.005  # of reading, until a shop's own is known; common practice, no source
PLATE_REPEATABILITY = 0.003  # of reading, of a reference plate put on anew; common practice, no source
