from elvarn.cli import main

main()
