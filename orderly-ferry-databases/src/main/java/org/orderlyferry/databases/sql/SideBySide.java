package org.orderlyferry.databases.sql;

import java.util.ArrayList;
import java.util.List;

/** Values as they are compared with others in every system: moments in one form, and no texts of which nobody says how they compare. */
final class SideBySide {

    private final ValueKinds kinds;
    private final Agreement agreement;

    SideBySide(ValueKinds kinds, Agreement agreement) {
        this.kinds = kinds;
        this.agreement = agreement;
    }

    /**
     * A value as it is compared with another one. How texts compare is a matter of their columns where systems don't agree
     * about letters, and some texts have none.
     */
    Expression beside(Expression other, Expression value) throws NotParsedException {
        kinds.mustShowNoBlanks(value, other);
        kinds.mustBeOfOnePrecision(value, other);
        Family family = kinds.family(value);
        Family others = kinds.family(other);
        if (others.isMoment() && isStanding(value)) {
            String text = value instanceof Expression.Text plain ? plain.value() : ((Expression.Dated) value).value();
            String moment = MomentText.of(others, text)
                    .filter(m -> agreement.isOfMidnights() || m.equals(text))
                    .orElseThrow(() -> new NotParsedException("no moment everywhere: " + text));
            return value instanceof Expression.Text
                    ? new Expression.Text(moment)
                    : new Expression.Dated(others.name(), moment);
        }
        boolean toldByOther = family.isMoment() && isStanding(other);
        boolean nobodys =
                family == Family.LITERAL && (others.isMoment() || !agreement.isOfLetters() && others == Family.LITERAL);
        if (!toldByOther && (nobodys || !family.compares(others))) {
            throw new NotParsedException("compared with something else");
        }
        return value;
    }

    /** Values that one is compared with, which has to be the same beside each. */
    List<Expression> all(Expression other, List<Expression> values) throws NotParsedException {
        List<Expression> all = new ArrayList<>();
        for (Expression value : values) {
            all.add(beside(other, value));
            if (!beside(value, other).equals(other)) {
                throw new NotParsedException("one thing beside several");
            }
        }
        return all;
    }

    private static boolean isStanding(Expression expression) {
        return expression instanceof Expression.Text || expression instanceof Expression.Dated;
    }
}
