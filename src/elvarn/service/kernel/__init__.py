"""What knows no step and no noun of the trade: finding, writing once, sentences, files, what is kept in memory."""
