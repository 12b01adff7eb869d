from elvarn.host.cli import main

if __name__ == "__main__":  # a process that reads files imports this under another name
    main()
