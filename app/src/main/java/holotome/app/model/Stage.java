package holotome.app.model;

/** The parts of the job, in working order. */
public enum Stage {
  INTAKE("Intake"),
  TRIM("Trim"),
  MEND("Mend"),
  DATUM("Datum"),
  REDUCE("Reduce"),
  UNWRAP("Unwrap"),
  BAKE("Bake"),
  SHIP("Ship");

  private final String title;

  Stage(String title) {
    this.title = title;
  }

  public String title() {
    return title;
  }

  /** Whether the stage is about the Cast. */
  public boolean showsCast() {
    return compareTo(REDUCE) >= 0;
  }
}
