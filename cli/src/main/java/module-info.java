/** The command line. */
module holotome.cli {
  requires holotome.core;
  requires holotome.view;
  requires holotome.demo;
  requires info.picocli;
  requires com.fasterxml.jackson.databind;

  opens holotome.cli to
      info.picocli;
}
