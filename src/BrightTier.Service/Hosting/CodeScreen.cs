namespace BrightTier.Service.Hosting;

/// <summary>
/// Shows a code to whoever is at the machine: on the error stream, once, and never in a log, which is kept and passed on.
/// </summary>
public class CodeScreen
{
    public virtual void Show(string line) => Console.Error.WriteLine(line);
}
