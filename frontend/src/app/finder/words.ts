/** Our own words, each in one line: shown where they are met first, and found by the finder. */
export const WORDS: Record<string, string> = {
  artwork: "a picture to make icons of: a file, something found on the site, letters or a symbol",
  bench: "where the artwork is framed, with every size beside it as it will be",
  frame: "the square that is cut out of the artwork; where it reaches beyond, there is margin",
  background: "what lies behind the artwork: nothing, or one colour",
  plate: "a shape with its own colour, between artwork and background",
  framing: "frame, background, plate and finish together; a size can have one of its own",
  size: "one of the icons on the ladder at the foot of the bench",
  set: "all the files for one site; a build makes it",
  place: "where a site's files live: a folder, or an account reached by SFTP, FTPS or FTP",
};
