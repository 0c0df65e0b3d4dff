/** The made-up scans of the Sandmouth harbour, with their true shape and scale known. */
module holotome.demo {
  requires transitive holotome.core;
  requires com.fasterxml.jackson.databind;

  exports holotome.demo;
}
