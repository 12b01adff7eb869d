"""What is assumed of a dyno until it is learned."""

PULL_REPEATABILITY = 0.01  # repeats of one set-up differ by 0.3 to 1 %; common practice, no source
