package org.orderlyferry.databases.dialect;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;
import org.apiguardian.api.API;
import org.orderlyferry.place.TextForms;

/** Forms of texts that a system is asked for: many at once, and the last ones are remembered. One thread at a time asks. */
@API(status = API.Status.INTERNAL)
public final class AskedForms implements TextForms {

    private static final int AT_ONCE = 500;

    /** So many characters are asked for at once, about: an answer may be tens of times as long, and servers bound it. */
    private static final int CHARACTERS_AT_ONCE = 20_000;

    private static final int REMEMBERED = 2_000;

    /** Longer ones are asked for each time. */
    private static final int SHORT = 100;

    /** What a system is asked. */
    @FunctionalInterface
    public interface Question {
        /** The forms of texts, in their order. */
        List<String> ask(Session session, List<String> texts) throws SQLException;
    }

    private final Supplier<Session> asking;
    private final Question question;
    private final Map<String, String> known = new LinkedHashMap<>();

    /**
     * Asks by a session of its own.
     *
     * @param asking gives that session, the same at each call
     */
    public AskedForms(Supplier<Session> asking, Question question) {
        this.asking = asking;
        this.question = question;
    }

    @Override
    public List<String> of(List<String> texts) {
        Session session = asking.get();
        // of several columns, each with forms of its own
        synchronized (session) {
            Map<String, String> forms = new LinkedHashMap<>();
            List<String> unknown = new ArrayList<>();
            int characters = 0;
            for (String text : texts) {
                String form = known.get(text);
                if (form != null) {
                    forms.put(text, form);
                } else if (!forms.containsKey(text)) {
                    forms.put(text, "");
                    unknown.add(text);
                    characters += text.length();
                    if (unknown.size() == AT_ONCE || characters > CHARACTERS_AT_ONCE) {
                        ask(session, unknown, forms);
                        characters = 0;
                    }
                }
            }
            ask(session, unknown, forms);
            return texts.stream().map(forms::get).toList();
        }
    }

    private void ask(Session session, List<String> unknown, Map<String, String> forms) {
        if (unknown.isEmpty()) {
            return;
        }
        List<String> answers = session.work("how texts are compared can't be asked", () -> {
            List<String> told = question.ask(session, List.copyOf(unknown));
            // nothing is kept waiting between two questions
            session.rollback();
            return told;
        });
        if (answers.size() != unknown.size()) {
            throw new IllegalStateException(answers.size() + " answers to " + unknown.size() + " texts");
        }
        for (int i = 0; i < answers.size(); i++) {
            forms.put(unknown.get(i), answers.get(i));
            if (unknown.get(i).length() <= SHORT) {
                known.put(unknown.get(i), answers.get(i));
            }
        }
        unknown.clear();
        if (known.size() > REMEMBERED) {
            known.clear();
        }
    }
}
