package org.orderlyferry.databases.check;

/** The logic of ISO/IEC 9075-2, which knows nulls, with a fourth outcome for what can't be told. */
final class Logic {

    private Logic() {}

    /** Whether something is true, false or unknown, as the standard has it. */
    static boolean isAnswer(Told told) {
        return told instanceof Told.Truth || told instanceof Told.Nothing;
    }

    static Told not(Told told) {
        return told instanceof Told.Truth truth ? Told.truth(!truth.value()) : isAnswer(told) ? told : Told.OPEN;
    }

    static Told and(Told left, Told right) {
        return not(or(not(left), not(right)));
    }

    static Told or(Told left, Told right) {
        if (left.equals(Told.TRUE) || right.equals(Told.TRUE)) {
            return Told.TRUE;
        }
        if (isAnswer(left) && isAnswer(right)) {
            return left.equals(Told.FALSE) && right.equals(Told.FALSE) ? Told.FALSE : Told.NULL;
        }
        return Told.OPEN;
    }

    /**
     * A question such as IS NOT NULL.
     *
     * @param what NULL, TRUE, FALSE or UNKNOWN
     */
    static Told is(Told told, String what, boolean not) {
        boolean asksForTruth = !what.equals("NULL");
        if (told instanceof Told.Open || asksForTruth && !isAnswer(told)) {
            return Told.OPEN;
        }
        boolean held =
                switch (what) {
                    case "TRUE" -> told.equals(Told.TRUE);
                    case "FALSE" -> told.equals(Told.FALSE);
                    default -> told instanceof Told.Nothing;
                };
        return Told.truth(held != not);
    }
}
