// The reference for P12: the smallest native console program.
Console.WriteLine("ready");
