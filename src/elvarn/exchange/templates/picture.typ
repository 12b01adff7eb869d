// A drawing as a picture by itself, on white.
#set page(width: auto, height: auto, margin: 10pt, fill: white)
#image(bytes(sys.inputs.svg), format: "svg", width: 680pt)
