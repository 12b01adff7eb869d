from elvarn.host.cli import main

main()
