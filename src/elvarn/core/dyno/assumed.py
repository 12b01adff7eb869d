"""What is assumed of a dyno until it is learned, in log percent."""

PULL = 0.36  # pulls of one mount: two differ by 1 % at most 19 times in 20, 1/2.8; common practice, no source
MOUNT = 0.3  # taken off and on again; choice, no source
DAY = 0.8  # 0.7 another day, 0.4 what correction for weather leaves; choice, no source
POINT = 0.5  # a pull at one speed; choice, no source
PULL_LIMIT_SCATTERS = 2.8  # what two pulls differ by at most 19 times in 20, in their scatters: ISO 5725-6
MOST_DRIFT = 3.0  # % that stock may drift within a day: beyond it the day says nothing; choice, no source
