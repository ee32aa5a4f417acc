using System.Collections.Immutable;
using System.Text;

namespace BrightTier.Core.Patterns;

/// <summary>
/// One run of a compiled pattern over a text. Makes nothing while it runs: a pattern of thousands of steps passes each of them at every
/// character.
/// </summary>
internal sealed class PatternRun
{
    private readonly Rune[] runes;

    /// <summary>Of each step: what takes a character; null where none is taken.</summary>
    private readonly PatternStep.Take?[] takes;

    /// <summary>Of each step: the place it goes on at only; null where it goes on anywhere.</summary>
    private readonly string?[] places;

    /// <summary>Of each step that takes no character: where it goes on, and where besides; -1 for nowhere.</summary>
    private readonly int[] next;
    private readonly int[] besides;
    private readonly int end;

    private StateSet current;
    private StateSet following;

    public PatternRun(ImmutableArray<PatternStep> steps, Rune[] text)
    {
        runes = text;
        takes = new PatternStep.Take?[steps.Length];
        places = new string?[steps.Length];
        next = new int[steps.Length];
        besides = new int[steps.Length];
        current = new StateSet(steps.Length);
        following = new StateSet(steps.Length);
        for (var i = 0; i < steps.Length; i++)
        {
            takes[i] = steps[i] as PatternStep.Take;
            places[i] = (steps[i] as PatternStep.At)?.Place;
            (next[i], besides[i]) = steps[i] switch
            {
                PatternStep.Jump jump => (jump.To, -1),
                PatternStep.Split split => (split.First, split.Second),
                PatternStep.At => (i + 1, -1),
                _ => (-1, -1),
            };
            end = steps[i] is PatternStep.Match ? i : end;
        }
    }

    /// <summary>Whether some part of the text matches.</summary>
    public bool Matches()
    {
        for (var at = 0; at <= runes.Length; at++)
        {
            // A match may begin at any character.
            Follow(current, 0, at);
            if (current.Has(end))
            {
                return true;
            }

            if (at == runes.Length)
            {
                break;
            }

            following.Clear();
            foreach (var step in current.All)
            {
                if (takes[step] is { } take && take.Accepts(runes[at]))
                {
                    Follow(following, step + 1, at + 1);
                }
            }

            (current, following) = (following, current);
        }

        return false;
    }

    /// <summary>Adds a step and all that is reached from it without taking a character.</summary>
    private void Follow(StateSet reached, int start, int at)
    {
        // Those that are reached are gone on from in their order: the list is its own queue.
        var from = reached.Count;
        reached.Add(start);
        for (; from < reached.Count; from++)
        {
            var step = reached[from];
            if (next[step] >= 0 && (places[step] is not { } place || Holds(place, at)))
            {
                reached.Add(next[step]);
                if (besides[step] >= 0)
                {
                    reached.Add(besides[step]);
                }
            }
        }
    }

    private bool Holds(string place, int at) =>
        place switch
        {
            "start" => at == 0,
            "end" => at == runes.Length,
            "line-start" => at == 0 || runes[at - 1].Value == '\n',
            "line-end" => at == runes.Length || runes[at].Value == '\n',
            "word" => IsWord(at - 1) != IsWord(at),
            _ => IsWord(at - 1) == IsWord(at),
        };

    private bool IsWord(int at) =>
        at >= 0 && at < runes.Length && (runes[at].Value == '_' || (runes[at].IsAscii && Rune.IsLetterOrDigit(runes[at])));

    /// <summary>The steps reached at a character, in the order they were.</summary>
    private sealed class StateSet(int size)
    {
        private readonly int[] order = new int[size];

        /// <summary>In which round a step was reached last: a new round forgets all at once.</summary>
        private readonly int[] rounds = new int[size];

        private int round = 1;

        public int Count { get; private set; }

        public ReadOnlySpan<int> All => order.AsSpan(0, Count);

        public int this[int index] => order[index];

        public bool Has(int step) => rounds[step] == round;

        public void Add(int step)
        {
            if (rounds[step] != round)
            {
                rounds[step] = round;
                order[Count++] = step;
            }
        }

        public void Clear()
        {
            round++;
            Count = 0;
        }
    }
}
